import { inWords } from '@/core/shape/counts';
import { lengthWords } from '@/core/shape/units';
import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';
import X from 'lucide-react-native/icons/x';

import { type Compared, compare } from '@/core/library/compare';
import { REFERENCES } from '@/core/library/references';
import {
  excessWords,
  feedsWords,
  saturatedWords,
  steadyResponse,
  type TenantResponse,
} from '@/core/case/dayFigures';
import { TYPICAL_SHARE } from '@/core/feeding/symbiont';
import type { NeedId } from '@/core/record/needs';
import { bandName, blueBreadthNm } from '@/core/mix/shape';
import { transmission } from '@/core/optics/water';
import { BANDS } from '@/core/spectrum/bands';
import { DashSample, Outlines } from '@/pieces/Outlines';
import { Strip } from '@/pieces/Strip';
import { useDesk } from '@/state/desk';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Sentence } from '@/ui/Sentence';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { font, space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Glimpse } from '../shared/Look';
import { useUnder } from '../shared/useUnder';

import { TubeCaution } from '../shared/Cautions';
import { spotPart } from '../shared/spotPart';
import { mol, umol } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { candidatesOf, choosable, MOST } from './candidates';

const useStyles = themed((p) => ({
  line: {
    flexDirection: 'row',
    borderBottomWidth: 1,
    borderColor: p.line,
    minHeight: 38,
    alignItems: 'center',
  },
  head: { borderColor: p.ink },
  name: { width: 118, paddingRight: space.s },
  cell: { textAlign: 'right', paddingLeft: space.s },
}));

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
  const [by, setBy] = useState<'par' | 'dli'>('par');
  const [values, setValues] = useState({ par: USUAL_PAR, dli: USUAL_DLI });
  const [hours, setHours] = useState<Record<string, number>>({});
  const [adding, setAdding] = useState(false);
  const items = candidatesOf(doc, zone, keys, hours);
  const depthCm = spot?.depthCm ?? zone.tank.depthCm / 2;
  const through = useMemo(() => transmission(zone.water, depthCm), [zone.water, depthCm]);
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
            <Sentence parts={['Compared at ', spotPart(zone.spots, spot), '.']} />
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
                <Type kind="small">{c.key.startsWith('plate') ? c.kind.name : 'everything full'}</Type>
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
          <Outlines
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

function Table({ all, need }: { all: readonly Compared[]; need: NeedId | null }) {
  const styles = useStyles();
  const page = usePageSize();
  const width = Math.max(78, (page.main - 118) / all.length);
  const row = (name: string, cells: readonly string[], bold = false) => (
    <View key={name} style={styles.line} role="row">
      <Type kind="small" style={styles.name} role="rowheader">
        {name}
      </Type>
      {cells.map((c, i) => (
        <Type
          key={i}
          kind="label"
          style={[styles.cell, { width }, bold ? { fontFamily: font.bold } : null]}
          role="cell"
        >
          {c}
        </Type>
      ))}
    </View>
  );
  const does = all.map((c) =>
    steadyResponse(need, ((c.usable ?? 0) * c.parUmol) / TYPICAL_SHARE, c.candidate.hours),
  );
  const said = (words: (r: TenantResponse) => string) => does.map((r) => (r ? words(r) : '–'));
  const holds = (c: Compared, id: string) => c.bands.find((b) => b.id === id)!.holds;
  return (
    <ScrollView horizontal contentContainerStyle={{ flexGrow: 1 }}>
      <View role="table" aria-label="Figures side by side">
        <View style={[styles.line, styles.head]} role="row">
          <Type kind="small" style={styles.name} role="columnheader">
            at the coral
          </Type>
          {all.map((c, i) => (
            <View key={i} style={{ width, alignItems: 'flex-end', paddingLeft: space.s }} role="columnheader">
              <DashSample index={i} />
              <Type kind="small" numberOfLines={2} style={{ textAlign: 'right' }}>
                {c.candidate.name}
              </Type>
            </View>
          ))}
        </View>
        {row(
          'PAR, µmol',
          all.map((c) => umol(c.parUmol)),
          true,
        )}
        {row(
          'Light a day, mol',
          all.map((c) => mol(c.dli)),
          true,
        )}
        {BANDS.map((b) =>
          row(
            `${b.name}, µmol · mol`,
            all.map((c) => {
              const token = holds(c, b.id) === 'token' ? ' token' : holds(c, b.id) === 'none' ? ' none' : '';
              return `${umol(c.photons[b.id])} · ${c.dose[b.id].toFixed(2)}${token && b.id !== 'farRed' ? ` ▲${token}` : ''}`;
            }),
          ),
        )}
        {row(
          'Usable, of PAR',
          all.map((c) => (c.usable === null ? '–' : percent(c.usable))),
        )}
        {row('Above saturation', said(saturatedWords))}
        {row('Feeds, of its light', said(feedsWords))}
        {row('Beyond its use', said(excessWords))}
        {row(
          'Blue breadth, nm',
          all.map((c) => (c.breadthNm === null ? '–' : String(Math.round(c.breadthNm)))),
        )}
        {row(
          'Watts per µmol/s',
          all.map((c) => (c.joulesPerUmol === null ? '–' : c.joulesPerUmol.toFixed(2))),
        )}
        {row(
          'Unused emitters',
          all.map((c) => `${c.unused.emitters} of ${c.unused.emittersAll}`),
        )}
        {row(
          'Unused watts',
          all.map((c) => `${Math.round(c.unused.watts)} of ${Math.round(c.unused.wattsAll)}`),
        )}
        {row(
          'Unused PAR, µmol/s',
          all.map((c) => `${Math.round(c.unused.par)} of ${Math.round(c.unused.parAll)}`),
        )}
      </View>
    </ScrollView>
  );
}

/** What each lamp cannot do, and the cheapest addition that restores it. */
function Cannot({ all }: { all: readonly Compared[] }) {
  const kinds = all.filter((c, i) => all.findIndex((x) => x.candidate.kind.id === c.candidate.kind.id) === i);
  return (
    <Section title="What each cannot do">
      {kinds.map((c) => (
        <View key={c.candidate.kind.id} style={{ gap: 2 }}>
          <Type kind="label">{c.candidate.kind.name}</Type>
          {c.cannot.length === 0 && <Type kind="small">Real output in every band.</Type>}
          {c.cannot.map((x) => (
            <Type key={x.band} kind="small">
              {`${x.holds === 'none' ? 'No' : 'Only a token of'} ${bandName(x.band)}: ${
                x.addition
                  ? `${x.addition.name}, price about ${x.addition.price}, would add it.`
                  : 'no lamp of the library adds it.'
              }`}
            </Type>
          ))}
        </View>
      ))}
      <Type kind="small">
        {`Above saturation, what feeds and what is beyond use are reckoned for the coral’s kind, only to compare these lights. ▲ token: under 2 % of photons with all blues full. Unused: of one lamp at this mix, before cap and strength. The ${inWords(all.length)} are scaled to the same light; watts and prices are typical of the kind (rule of thumb, made up).`}
      </Type>
    </Section>
  );
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
