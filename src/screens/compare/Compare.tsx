import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { Pressable, View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';
import X from 'lucide-react-native/icons/x';

import { lengthWords } from '@/core/shape/units';
import { type Compared, compare } from '@/core/library/compare';
import { REFERENCES } from '@/core/library/references';
import { blueBreadthNm } from '@/core/mix/shape';
import { transmission } from '@/core/optics/water';
import { DashSample } from '@/pieces/Outlines';
import { Strip } from '@/pieces/Strip';
import { useDesk } from '@/state/desk';
import { useTyped } from '@/state/typed';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { percent } from '@/core/shape/percent';

import { Glimpse } from '../shared/Look';
import { useUnder } from '../shared/useUnder';
import { TubeCaution } from '../shared/Cautions';
import { OfSpot } from '../shared/OfSpot';
import { TakenOutlines } from '../shared/TakenOutlines';
import { mol } from '../shared/words';
import { candidatesOf, choosable, MOST } from './candidates';
import { Cannot, Table } from './Table';
import { useNear } from './useNear';

const USUAL_PAR = 150;
const USUAL_DLI = 5;

/** Two to four lamps or mixes at equal PAR or equal DLI. */
export function Compare() {
  const desk = useDesk();
  const { doc, zone, spot, plate, lampKind } = desk;
  const seen = useUnder(desk);
  const { with: wanted } = useLocalSearchParams<{ with?: string }>();
  const page = usePageSize();
  const keys = (wanted ?? (plate ? `plate.${plate.id}` : '')).split(',').filter(Boolean);
  const typed = useTyped('compare');
  const [by, setBy] = typed.of<'par' | 'dli'>('by', 'par');
  const [values, setValues] = typed.of('values', { par: USUAL_PAR, dli: USUAL_DLI });
  const [hours, setHours] = typed.of<Record<string, number>>('hours', {});
  const [adding, setAdding] = useState(false);
  const depthCm = spot?.depthCm ?? zone.tank.depthCm / 2;
  const through = useMemo(() => transmission(zone.water, depthCm), [zone.water, depthCm]);
  const { model, matches } = useNear(keys, through);
  const near = Object.fromEntries(Object.entries(matches).map(([key, c]) => [key, c.mix]));
  const items = candidatesOf(doc, zone, keys, hours, near);
  const all = compare(items, { by, value: values[by] }, through);
  const dark = all.filter((c) => !(c.parUmol > 0));
  const set = (next: string[]) => router.setParams({ with: next.join(',') } as never);
  const lights = all.map((c) => ({ name: c.candidate.name, spectrum: c.spectrum }));

  return (
    <Page
      testID="compare"
      title="Compare"
      under={`straight down to ${spot?.name ?? 'mid-water'}, ${lengthWords(depthCm)}, through this water`}
      sentence={<Type testID="compare-says">{sentenceOf(all, by)}</Type>}
      side={
        <>
          <Section title="Held equal">
            <Choice
              label="What is equal"
              value={by}
              onChange={setBy}
              options={[
                { value: 'par', label: 'PAR' },
                { value: 'dli', label: 'DLI' },
              ]}
            />
            <ValueField
              label={by === 'par' ? 'PAR at the coral' : 'Light a day at the coral'}
              value={String(values[by])}
              unit={by === 'par' ? 'µmol' : 'mol a day'}
              numeric
              testID="compare-value"
              onCommit={(text) => {
                const v = parseNumber(text);
                const most = by === 'par' ? 2000 : 100;
                if (v === null || v <= 0 || v > most) return `Give a number above 0, up to ${most}.`;
                setValues({ ...values, [by]: v });
                return null;
              }}
            />
            <OfSpot says="Compared at" spots={zone.spots} spot={spot} />
          </Section>
          <Section title="Breadth of the blue region">
            <Type kind="small">
              Width in nm over which the photons from 400 to 500 nm would lie if spread evenly. References,
              modelled:
            </Type>
            {REFERENCES.slice(0, 5).map((r) => (
              <Type
                key={r.id}
                kind="small"
              >{`${r.name}: ${Math.round(blueBreadthNm(r.spectrum())!)} nm`}</Type>
            ))}
          </Section>
        </>
      }
    >
      <View>
        {items.map((c, i) => (
          <View key={c.key} style={ITEM}>
            <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
              <DashSample index={i} />
              <View style={{ flex: 1 }}>
                <Type kind="label">{c.name}</Type>
                <Type kind="small" testID={`as-${i}`}>
                  {c.key.startsWith('plate')
                    ? c.kind.name
                    : c.key.startsWith('lamp') || !model
                      ? 'everything full'
                      : matches[c.key]
                        ? `as near ${model.name} as it can, match ${percent(Math.max(0, matches[c.key]!.match))}`
                        : `being set as near ${model.name} as it can …`}
                </Type>
              </View>
              <View style={{ width: 92 }}>
                <ValueField
                  label={`Hours a day of ${c.name}`}
                  hideLabel
                  value={String(c.hours)}
                  unit="h"
                  numeric
                  testID={`hours-${i}`}
                  onCommit={(text) => {
                    const h = parseNumber(text);
                    if (h === null || h <= 0 || h > 24) return '0 to 24';
                    setHours({ ...hours, [c.key]: h });
                    return null;
                  }}
                />
              </View>
              <Button
                label="Remove"
                name={`Remove ${c.name} from the comparison`}
                icon={X}
                iconOnly
                kind="plain"
                onPress={() => set(items.filter((x) => x.key !== c.key).map((x) => x.key))}
              />
            </View>
            {c.key.startsWith('plate') && c.kind.id === lampKind?.id && seen(c.mix) && (
              <Glimpse
                {...seen(c.mix)!}
                brightness="evened"
                width={page.main}
                name={`The tank under ${c.name}`}
              />
            )}
            {model && !c.key.startsWith('plate') && (
              <View style={{ flexDirection: 'row' }}>
                <Button
                  label={c.key.startsWith('lamp') ? `Set as near ${model.name} as it can` : 'Everything full'}
                  name={`${c.name}: ${c.key.startsWith('lamp') ? `set as near ${model.name} as it can` : 'everything full'}`}
                  kind="plain"
                  onPress={() => {
                    const other = c.key.startsWith('lamp') ? `near.${c.kind.id}` : `lamp.${c.kind.id}`;
                    set(items.map((x) => (x.key === c.key ? other : x.key)));
                  }}
                  testID={`near-${i}`}
                />
              </View>
            )}
            <Strip
              spectrum={all[i]!.spectrum}
              width={page.main}
              height={16}
              name={`Spectrum of ${c.name} at the coral`}
            />
          </View>
        ))}
        {items.length === 0 && <Type>Nothing to compare yet. Add two to four plates or lamps.</Type>}
      </View>
      <View style={{ flexDirection: 'row' }}>
        <Button
          label={items.length >= MOST ? 'Four stand side by side' : 'Add a plate or lamp'}
          icon={Plus}
          disabled={items.length >= MOST}
          onPress={() => setAdding(true)}
          testID="compare-add"
        />
      </View>
      {dark.length > 0 && (
        <Note>{`${dark[0]!.candidate.name} gives no light at all, so it cannot be scaled.`}</Note>
      )}
      {all.length > 0 && (
        <>
          <TakenOutlines
            file="spectra"
            caption={`${lights.map((l) => l.name).join(', ')}: photons over wavelength at ${spot?.name ?? 'mid-water'}, scaled to one light. Modelled.`}
            unit="µmol m⁻² s⁻¹ nm⁻¹"
            lights={lights}
            width={page.main}
            height={page.wide ? 220 : 170}
            name={`Outlines of ${lights.map((l) => l.name).join(', ')} over wavelength at the coral`}
          />
          <Table all={all} need={spot?.need ?? null} />
          <Cannot all={all} />
        </>
      )}
      {items.some((c) => c.kind.source !== 'led') && <TubeCaution />}
      {adding && (
        <AddSheet
          taken={items.map((x) => x.key)}
          onAdd={(key) => {
            set([...items.map((x) => x.key), key]);
            setAdding(false);
          }}
          onClose={() => setAdding(false)}
        />
      )}
    </Page>
  );
}

const ITEM = { paddingVertical: space.s, gap: space.s } as const;

/** One line that a person would say: what is equal, and what is not. */
function sentenceOf(all: readonly Compared[], by: 'par' | 'dli'): string {
  const lit = all.filter((c) => c.parUmol > 0);
  if (lit.length < 2) return lit.length === 0 ? 'Nothing to compare yet.' : 'Add another to compare with.';
  const name = (c: Compared) => c.candidate.name;
  if (by === 'par') {
    const [low, high] = [...lit]
      .sort((a, b) => a.dli - b.dli)
      .filter((_, i, s) => i === 0 || i === s.length - 1);
    const ratio = high!.dli / low!.dli;
    return ratio < 1.005
      ? `At equal PAR and equal hours: ${mol(low!.dli)} mol a day each, so only the colour differs.`
      : `Equal PAR, unequal dose: ${name(high!)} gives ${ratio.toFixed(2)} × the light a day of ${name(low!)}, because it runs longer. Hold DLI equal to compare colour alone.`;
  }
  const [low, high] = [...lit]
    .sort((a, b) => a.parUmol - b.parUmol)
    .filter((_, i, s) => i === 0 || i === s.length - 1);
  const ratio = high!.parUmol / low!.parUmol;
  return ratio < 1.005
    ? `Equal light a day at equal strength: only the colour differs.`
    : `Equal light a day; ${name(high!)} runs ${ratio.toFixed(2)} × as strong for shorter.`;
}

function AddSheet({
  taken,
  onAdd,
  onClose,
}: {
  taken: readonly string[];
  onAdd: (key: string) => void;
  onClose: () => void;
}) {
  const { doc } = useDesk();
  const [find, setFind] = useState('');
  const words = find.trim().toLowerCase();
  const all = choosable(doc).filter(
    (c) => !taken.includes(c.key) && [c.name, c.about].some((t) => t.toLowerCase().includes(words)),
  );
  const groups = [...new Set(all.map((c) => c.group))];
  return (
    <Sheet title="Add to the comparison" onClose={onClose}>
      <FieldRow>
        <TextField label="Find" value={find} onChange={setFind} testID="compare-find" />
      </FieldRow>
      {all.length === 0 && <Type>Nothing of that name is left to add.</Type>}
      {groups.map((group) => (
        <View key={group}>
          <Type kind="small">{group}</Type>
          {all
            .filter((c) => c.group === group)
            .map((c) => (
              <Pressable
                key={c.key}
                role="button"
                aria-label={`Add ${c.name}`}
                onPress={() => onAdd(c.key)}
                style={{ minHeight: 48, justifyContent: 'center' }}
              >
                <Type kind="label">{c.name}</Type>
                <Type kind="small" numberOfLines={1}>
                  {c.about}
                </Type>
              </Pressable>
            ))}
        </View>
      ))}
    </Sheet>
  );
}
