import { useTyped } from '@/state/typed';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import ArrowDown from 'lucide-react-native/icons/arrow-down';
import ArrowUp from 'lucide-react-native/icons/arrow-up';
import Download from 'lucide-react-native/icons/download';
import Link from 'lucide-react-native/icons/link';

import type { CaseDoc, Plate } from '@/core/record/caseDoc';
import { newPlate } from '@/core/case/plate';
import { blend, lightDifference } from '@/core/mix/versions';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { Strip } from '@/pieces/Strip';
import {
  addPlate,
  movePlate,
  removePlate,
  removeVersion,
  renamePlate,
  restoreVersion,
  saveVersion,
  setPlateNotes,
} from '@/state/commands/plates';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { plateFile } from '@/state/plates';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { longDate, nowUtcIso } from '@/state/time';
import { Button, Stepper } from '@/ui/Button';
import { Choice, TextField, ValueField } from '@/ui/Field';
import { download } from '@/ui/files';
import { Fold, Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { GiveSheet } from '../sheets';
import { CarrySheet } from './CarrySheet';

/** Everything of one plate: name, notes, versions told in light, order, blend, file, and taking it over to another lamp. */
export function PlateDetail({ doc, plate, onClose }: { doc: CaseDoc; plate: Plate; onClose: () => void }) {
  const { zone } = useDesk();
  const typed = useTyped(`plate ${plate.id}`);
  const [note, setNote] = typed.of('note', '');
  const [carrying, setCarrying] = useState(false);
  const [giving, setGiving] = useState(false);
  const kind = doc.lampKinds.find((k) => k.id === plate.lampKindId)!;
  const hung = zone.groups.find((g) => g.lampKindId === kind.id);
  const siblings = doc.plates.filter((p) => p.lampKindId === kind.id && p.id !== plate.id);
  const at = doc.plates.findIndex((p) => p.id === plate.id);
  const keepVersion = () => {
    if (run(saveVersion(plate.id, { id: newId(), atUtc: nowUtcIso(), note: note.trim() }))) typed.clear();
  };
  const file = () => {
    const f = plateFile(plate, kind);
    download(f.name, f.text);
  };
  if (giving)
    return (
      <GiveSheet
        given={{ letter: 'p', text: plateFile(plate, kind).text }}
        name={plate.name}
        onClose={() => setGiving(false)}
      />
    );
  if (carrying)
    return <CarrySheet doc={doc} plate={plate} onClose={() => setCarrying(false)} onTaken={onClose} />;
  return (
    <Sheet title={plate.name} onClose={onClose} typed={typed}>
      <Strip
        spectrum={mixSpectrum(kind, plate.mix)}
        width={320}
        name={`Spectrum of ${plate.name} at the lamp`}
      />
      <Type kind="small">{`Made for ${kind.name}${hung ? '' : ', which does not hang over this water'}.`}</Type>
      <ValueField
        label="Name"
        value={plate.name}
        testID="plate-name"
        onCommit={(text) =>
          text.trim() === ''
            ? 'Give the plate a name.'
            : run(renamePlate(plate.id, text.trim()))
              ? null
              : 'Not taken.'
        }
      />
      <ValueField
        label="Notes"
        value={plate.notes}
        testID="plate-notes"
        onCommit={(text) =>
          text.length > 4000
            ? 'At most 4000 letters.'
            : run(setPlateNotes(plate.id, text))
              ? null
              : 'Not taken.'
        }
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        {hung ? (
          <Button
            label="Open in Mix"
            kind="filled"
            onPress={() => {
              changeSettings({ plateId: plate.id, groupId: hung.id });
              onClose();
              router.navigate('/mix');
            }}
          />
        ) : (
          <Button label="Take over" kind="filled" onPress={() => setCarrying(true)} testID="take-over" />
        )}
        <Button
          label="Duplicate"
          onPress={() =>
            run(addPlate({ ...plate, id: newId(), name: `${plate.name}, copy`, versions: [] }, plate.id))
          }
        />
        <Button
          label="Compare"
          onPress={() => {
            onClose();
            router.navigate(`/compare?with=plate.${plate.id}` as never);
          }}
        />
        <Button label="File" icon={Download} onPress={file} name={`Keep ${plate.name} as a file`} />
        <Button
          label="Link"
          icon={Link}
          onPress={() => setGiving(true)}
          name={`Give ${plate.name} along as a link`}
          testID="plate-link"
        />
        <Button
          label="Up"
          icon={ArrowUp}
          iconOnly
          disabled={at <= 0}
          name={`Move ${plate.name} up`}
          onPress={() => run(movePlate(plate.id, -1))}
        />
        <Button
          label="Down"
          icon={ArrowDown}
          iconOnly
          disabled={at >= doc.plates.length - 1}
          name={`Move ${plate.name} down`}
          onPress={() => run(movePlate(plate.id, 1))}
        />
        <Button
          label="Delete"
          name={`Delete ${plate.name}`}
          disabled={hung !== undefined && siblings.length === 0}
          onPress={() => {
            onClose();
            run(removePlate(plate.id));
          }}
        />
      </View>
      <Fold title={`Versions (${plate.versions.length})`} open={plate.versions.length > 0} testID="versions">
        <Type kind="small">
          Each against the mix as it is now, in light; a first change keeps what was by itself.
        </Type>
        {[...plate.versions].reverse().map((old) => (
          <Row key={old.id} style={{ alignItems: 'flex-start' }}>
            <View style={{ flex: 1, gap: 2 }}>
              <Type kind="label">{longDate(Date.parse(old.atUtc), zone.timeZone)}</Type>
              {old.note !== '' && <Type kind="small">{old.note}</Type>}
              <Strip
                spectrum={mixSpectrum(kind, old.mix)}
                width={200}
                height={10}
                name="Spectrum of this version"
              />
              <Type kind="small" testID="version-difference">
                {lightDifference(kind, plate.mix, old.mix).join(', ') || 'the same light as now'}
              </Type>
            </View>
            <View>
              <Button
                label="Go back"
                kind="plain"
                name={`Go back to the version of ${longDate(Date.parse(old.atUtc), zone.timeZone)}`}
                onPress={() => run(restoreVersion(plate.id, old.id, { id: newId(), atUtc: nowUtcIso() }))}
              />
              <Button
                label="Drop"
                kind="plain"
                name={`Drop the version of ${longDate(Date.parse(old.atUtc), zone.timeZone)}`}
                onPress={() => run(removeVersion(plate.id, old.id))}
              />
            </View>
          </Row>
        ))}
        <TextField label="Note for the next version" value={note} onChange={setNote} testID="version-note" />
        <Button label="Keep this mix as a version" onPress={keepVersion} testID="keep-version" />
      </Fold>
      {siblings.length > 0 && (
        <Blend key={plate.id} kindPlates={siblings} plate={plate} doc={doc} onMade={onClose} />
      )}
    </Sheet>
  );
}

const BLEND_STEP = 0.05;

/** Two plates of one lamp blended into a third. */
function Blend({
  kindPlates,
  plate,
  doc,
  onMade,
}: {
  kindPlates: Plate[];
  plate: Plate;
  doc: CaseDoc;
  onMade: () => void;
}) {
  const [otherId, setOther] = useState(kindPlates[0]!.id);
  const [share, setShare] = useState(0.5);
  const kind = doc.lampKinds.find((k) => k.id === plate.lampKindId)!;
  const other = kindPlates.find((p) => p.id === otherId) ?? kindPlates[0]!;
  const mix = blend(kind, plate.mix, other.mix, share);
  const make = () => {
    const id = newId();
    const made = newPlate(id, `${plate.name} and ${other.name}`.slice(0, 120), kind.id, mix);
    if (run(addPlate(made, plate.id))) {
      changeSettings({ plateId: id });
      onMade();
    }
  };
  return (
    <Fold title="Blend with another" testID="blend">
      <Choice
        label="With"
        value={other.id}
        onChange={setOther}
        options={kindPlates.map((p) => ({ value: p.id, label: p.name }))}
      />
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.l }}>
        <Type style={{ flex: 1 }}>{`${Math.round(share * 100)} % of the way to ${other.name}`}</Type>
        <Stepper
          name="Blend"
          atLow={share <= 0}
          atHigh={share >= 1}
          onStep={(sign) =>
            setShare(Math.min(1, Math.max(0, Math.round(share / BLEND_STEP + sign) * BLEND_STEP)))
          }
        />
      </View>
      <Strip spectrum={mixSpectrum(kind, mix)} width={320} height={14} name="Spectrum of the blend" />
      <Button label="Make this plate" onPress={make} testID="make-blend" />
    </Fold>
  );
}
