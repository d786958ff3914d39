import { plural } from '@/core/shape/counts';
import { sizeWords } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';

import { ZONE_KINDS } from '@/core/record/chores';
import type { Zone } from '@/core/record/zone';
import { plainTank } from '@/core/optics/tank';
import { addZone, removeZone, setZone } from '@/state/commands/waters';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Note, Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { useNumbers, waterNameWrong } from './typed';

/** The lit waters of the case: which lies on the desk, more of them, their names and kinds. */
export function Waters() {
  const { doc, zone } = useDesk();
  const [open, setOpen] = useState<Zone | 'new' | null>(null);
  return (
    <Section title="Waters">
      <View>
        {doc.zones.map((z) => (
          <Row key={z.id} onPress={() => setOpen(z)} name={`Water ${z.name}`}>
            <View style={{ flex: 1 }}>
              <Type kind="label">{z.name}</Type>
              <Type kind="small">
                {`${ZONE_KINDS[z.kind].name}, ${sizeWords(z.tank.lengthCm, z.tank.widthCm, z.tank.depthCm)}, ${
                  z.groups.length === 0 ? 'no lamp' : plural(z.groups.flatMap((g) => g.lamps).length, 'lamp')
                }`}
              </Type>
            </View>
            {z.id === zone.id && <Type kind="small">shown now</Type>}
          </Row>
        ))}
      </View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button label="Add a water" icon={Plus} onPress={() => setOpen('new')} testID="add-water" />
        <Button
          label="Which tank is it?"
          name="Which tank is it? A path to a refugium or planted display"
          onPress={() => router.navigate('/which')}
          testID="case-which"
        />
        <Button label="Upkeep" onPress={() => router.navigate('/upkeep')} testID="case-upkeep" />
      </View>
      {open !== null && (
        <ZoneSheet
          key={open === 'new' ? 'new' : open.id}
          zone={open === 'new' ? null : open}
          onClose={() => setOpen(null)}
        />
      )}
    </Section>
  );
}

/** What a water is: its name, kind and, when it is new, its box. */
function ZoneSheet({ zone, onClose }: { zone: Zone | null; onClose: () => void }) {
  const { doc, zone: here } = useDesk();
  const typed = useTyped(`water ${zone?.id ?? `new in ${doc.id}`}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [kind, setKind] = typed.of<Zone['kind']>('kind', zone?.kind ?? 'refugium');
  const [name, setName] = typed.of('name', zone?.name ?? '');
  const [error, setError] = useState<string | undefined>(undefined);
  const { field, read } = useNumbers(
    typed,
    { length: zone?.tank.lengthCm ?? 45, width: zone?.tank.widthCm ?? 35, depth: zone?.tank.depthCm ?? 30 },
    { length: [5, 1000], width: [5, 1000], depth: [5, 300] },
  );
  const keep = () => {
    const wanted = name.trim();
    const wrong = waterNameWrong(doc.zones, wanted, zone?.id);
    setError(wrong);
    const n = read();
    if (wrong || !n) return;
    const box = { lengthCm: n.length, widthCm: n.width, depthCm: n.depth };
    if (zone) {
      if (run(setZone(zone.id, { name: wanted, kind, tank: { ...zone.tank, ...box } }))) kept();
      return;
    }
    const id = newId();
    const done = run(
      addZone({
        id,
        name: wanted,
        kind,
        timeZone: here.timeZone,
        tank: plainTank(n.length, n.width, n.depth),
        // the same water runs through all of them
        water: here.water,
        carbonDate: here.carbonDate,
        rippleSlope: here.rippleSlope,
        needs: {},
        groups: [],
        spots: [],
      }),
    );
    if (!done) return;
    choose(id);
    kept();
  };
  const choose = (zoneId: string) => changeSettings({ zoneId, groupId: null, plateId: null, spotId: null });
  return (
    <Sheet title={zone ? zone.name : 'New water'} onClose={onClose} typed={typed}>
      {zone && zone.id !== here.id && (
        <Button
          label={`Show ${zone.name}`}
          kind="filled"
          wide
          onPress={() => {
            choose(zone.id);
            onClose();
          }}
          testID="open-water"
        />
      )}
      <TextField label="Name" value={name} onChange={setName} error={error} testID="water-name" />
      <Choice
        label="It is a"
        value={kind}
        onChange={setKind}
        options={(Object.entries(ZONE_KINDS) as [Zone['kind'], { name: string; about: string }][]).map(
          ([value, k]) => ({ value, label: `${k.name}: ${k.about}` }),
        )}
      />
      <FieldRow>
        <TextField label="Length" {...field('length')} testID="water-length" />
        <TextField label="Width" {...field('width')} testID="water-width" />
        <TextField label="Water depth" {...field('depth')} testID="water-depth" />
      </FieldRow>
      <Button label="Keep" kind={zone ? undefined : 'filled'} wide onPress={keep} testID="keep-water" />
      {zone && doc.zones.length > 1 && (
        <>
          <Note>
            {`Removing takes ${zone.name} out with its lamps, what ran there, readings and log. Undo brings all of it back while this case stays open.`}
          </Note>
          <Button
            label={`Remove ${zone.name}`}
            onPress={() => {
              onClose();
              run(removeZone(zone.id, zone.name));
            }}
            testID="remove-water"
          />
        </>
      )}
    </Sheet>
  );
}
