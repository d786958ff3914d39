import { router, useLocalSearchParams } from 'expo-router';
import { View } from 'react-native';

import { formatHours } from '@/core/day/clock';
import { type CoralForm, FORMS } from '@/core/coral/form';
import { NEEDS, type NeedId, wantsOfKind } from '@/core/record/needs';
import { LIGHT_NAMES } from '@/core/case/card';
import {
  type InHand,
  LIGHT_KINDS,
  type LightKind,
  plainSpot,
  type Spot,
  type Zone,
} from '@/core/record/zone';
import { lengthRange, lengthWords } from '@/core/shape/units';
import { removeInHand, setInHand } from '@/state/commands/hands';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { useTyped } from '@/state/typed';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Sentence } from '@/ui/Sentence';
import { space } from '@/ui/theme';

import { umol } from '../shared/words';

const KINDS = (Object.keys(NEEDS) as NeedId[]).filter((n) => n !== 'nonPhotosynthetic' && n !== 'macroalgae');
const USUAL_HOURS = 9;
const ANOTHER = '';
const SHAPED: Partial<Record<NeedId, readonly CoralForm['shape'][]>> = {
  soft: ['leather', 'polyps', 'disc', 'tentacles'],
  largePolyp: ['brain', 'cup', 'tentacles', 'polyps'],
  smallPolyp: ['branch', 'table', 'plate', 'crust'],
  clam: ['clam'],
  anemone: ['anemone'],
};

/** A spot with a coral that was in hand. */
export const handSpot = (coral: InHand, at: Pick<Spot, 'id' | 'xCm' | 'yCm' | 'depthCm'>, arrived: string) =>
  plainSpot({
    ...at,
    ...{ name: coral.name, need: coral.need, formId: coral.formId, arrived },
    ...(coral.cameFrom ? { cameFrom: coral.cameFrom } : {}),
    ...(coral.sizeCm ? { sizeCm: coral.sizeCm } : {}),
  });

/** Who is in hand: one that is kept, by its id in the address; or one that is only asked about, in the address but for its name. */
export function useInHand({ zone }: Pick<Desk, 'zone'>) {
  const p = useLocalSearchParams<Record<string, string>>();
  const typed = useTyped(`coral in hand in ${zone.id}`);
  const [name, setName] = typed.of('name', `Coral ${zone.spots.length + 1}`);
  const kept = zone.inHand?.find((c) => c.id === p.hand) ?? null;
  const number = (text: string | undefined, low: number, high: number) => {
    const v = Number(text);
    return text && Number.isFinite(v) && v >= low && v <= high ? v : null;
  };
  const [peak, hours, size] = [number(p.peak, 1, 3000), number(p.hours, 0.5, 24), number(p.size, 1, 200)];
  const asked: InHand = {
    ...{ id: '', name, need: KINDS.find((k) => k === p.kind) ?? 'smallPolyp', formId: p.form || null },
    ...(peak === null ? {} : { cameFrom: { peakUmol: peak, hours: hours ?? USUAL_HOURS } }),
    ...(size === null ? {} : { sizeCm: size }),
    ...(p.light && p.light in LIGHT_NAMES ? { light: p.light as LightKind } : {}),
    ...(p.origin === 'farmed' || p.origin === 'wild' ? { origin: p.origin } : {}),
  };
  const set = (change: Partial<InHand>) => {
    if (kept) {
      const next = { ...kept, ...change };
      // what is not known any more is not kept
      for (const key of ['cameFrom', 'sizeCm', 'light', 'origin'] as const)
        if (next[key] === undefined) delete next[key];
      run(setInHand(zone.id, next, `hand ${kept.id}`));
      return;
    }
    const next = { ...asked, ...change };
    if (change.name !== undefined) setName(change.name);
    router.setParams({
      ...{ kind: next.need, form: next.formId ?? '' },
      ...{ peak: next.cameFrom ? String(next.cameFrom.peakUmol) : '' },
      ...{ hours: next.cameFrom ? String(next.cameFrom.hours) : '', size: String(next.sizeCm ?? '') },
      ...{ light: next.light ?? '', origin: next.origin ?? '' },
    });
  };
  const choose = (id: string) => router.setParams({ hand: id });
  const coral = kept ?? asked;
  return { coral, kept, set, choose, clear: typed.clear };
}

/** Which coral is in hand, and what is known of it, in a sentence. */
export function HandSentence({
  zone,
  forms: own,
  hand: { coral, kept, set, choose, clear },
}: {
  zone: Zone;
  forms: readonly CoralForm[];
  hand: ReturnType<typeof useInHand>;
}) {
  const { need, name, cameFrom, sizeCm } = coral;
  const forms = [...own, ...FORMS].filter((f) => SHAPED[need]?.includes(f.shape));
  const form = forms.find((f) => f.id === coral.formId) ?? null;
  const inHand = zone.inHand ?? [];
  const within = (text: string, low: number, high: number, take: (v: number) => void, say: string) => {
    const v = parseNumber(text);
    if (v === null || v < low || v > high) return say;
    take(v);
    return null;
  };
  return (
    <View style={{ gap: space.s }}>
      {inHand.length > 0 && (
        <Choice
          label="In hand"
          value={kept?.id ?? ANOTHER}
          onChange={choose}
          options={[
            ...inHand.map((c) => ({ value: c.id, label: c.name })),
            { value: ANOTHER, label: 'another' },
          ]}
        />
      )}
      <Sentence
        testID="in-hand"
        parts={[
          'A ',
          {
            ...{ id: 'kind', name: 'What it is', chosen: need, value: NEEDS[need].name },
            options: KINDS.map((k) => {
              const { fromUmol, toUmol } = wantsOfKind(k, zone);
              return { value: k, label: `${NEEDS[k].name}, ${fromUmol}–${toUmol} µmol` };
            }),
            onChoose: (kind) => set({ need: kind as NeedId, formId: null }),
          },
          ', ',
          {
            ...{ id: 'form', name: 'What it looks like', chosen: form?.id ?? '' },
            value: form?.name.toLowerCase() ?? 'its looks not said',
            options: [
              { value: '', label: 'not said' },
              ...forms.map((f) => ({ value: f.id, label: f.name })),
            ],
            onChoose: (id) => set({ formId: id || null }),
          },
          ', ',
          {
            ...{ id: 'size', name: 'How wide it is' },
            value: sizeCm ? `${lengthWords(sizeCm)} across` : 'of usual width',
            panel: (
              <FieldRow>
                <ValueField
                  label="How wide it is"
                  value={sizeCm ? String(sizeCm) : ''}
                  unit="cm"
                  numeric
                  hint="Empty = as is usual for its shape."
                  testID="hand-size"
                  onCommit={(text) => {
                    if (text.trim() !== '')
                      return within(
                        text,
                        1,
                        200,
                        (v) => set({ sizeCm: v }),
                        `Give ${lengthRange(1, 200)}, or nothing.`,
                      );
                    set({ sizeCm: undefined });
                    return null;
                  }}
                />
              </FieldRow>
            ),
          },
          ', called ',
          {
            ...{ id: 'name', name: 'Its name', value: name },
            panel: (
              <ValueField
                label="Its name"
                value={name}
                testID="hand-name"
                onCommit={(text) => {
                  if (text.trim() === '') return 'Give it a name.';
                  if (text.trim().length > 120) return 'Give at most 120 characters.';
                  set({ name: text.trim() });
                  return null;
                }}
              />
            ),
          },
          ', from ',
          {
            ...{ id: 'from', name: 'The light it comes from' },
            value: cameFrom
              ? `${umol(cameFrom.peakUmol)} µmol for ${formatHours(cameFrom.hours)}`
              : 'a light nobody knows',
            panel: (
              <FieldRow>
                <ValueField
                  label="Its brightest there"
                  value={cameFrom ? String(cameFrom.peakUmol) : ''}
                  unit="µmol"
                  numeric
                  testID="hand-peak"
                  hint="Empty = not known: it is then taken for used to the least of its kind."
                  onCommit={(text) => {
                    if (text.trim() !== '')
                      return within(
                        text,
                        1,
                        3000,
                        (v) => set({ cameFrom: { peakUmol: v, hours: cameFrom?.hours ?? USUAL_HOURS } }),
                        'Give 1 to 3000 µmol, or nothing.',
                      );
                    set({ cameFrom: undefined });
                    return null;
                  }}
                />
                {cameFrom && (
                  <ValueField
                    label="For so long a day"
                    value={String(cameFrom.hours)}
                    unit="h"
                    numeric
                    testID="hand-hours"
                    onCommit={(text) =>
                      within(
                        text,
                        0.5,
                        24,
                        (hours) => set({ cameFrom: { ...cameFrom, hours } }),
                        'Give 0.5 to 24 h.',
                      )
                    }
                  />
                )}
              </FieldRow>
            ),
          },
          ' of ',
          {
            ...{ id: 'light', name: 'What light that was', chosen: coral.light ?? '' },
            value: coral.light ? LIGHT_NAMES[coral.light] : 'no known colour',
            options: [
              { value: '', label: 'not known' },
              ...LIGHT_KINDS.map((k) => ({ value: k, label: LIGHT_NAMES[k] })),
            ],
            onChoose: (id) => set({ light: (id || undefined) as LightKind | undefined }),
          },
          ', ',
          {
            ...{ id: 'origin', name: 'Farmed or wild', chosen: coral.origin ?? '' },
            value: coral.origin ?? 'farmed or wild',
            options: [
              { value: '', label: 'not known' },
              { value: 'farmed', label: 'farmed' },
              { value: 'wild', label: 'wild' },
            ],
            onChoose: (id) => set({ origin: (id || undefined) as InHand['origin'] }),
          },
          '.',
        ]}
      />
      {kept ? (
        <Button
          label="Not in hand any more"
          onPress={() => {
            if (run(removeInHand(zone.id, kept.id, kept.name))) choose(ANOTHER);
          }}
          testID="hand-gone"
        />
      ) : (
        <Button
          label="Keep it in hand"
          name="Keep it in hand: it stays here until it has a place"
          onPress={() => {
            const id = newId();
            if (!run(setInHand(zone.id, { ...coral, id }))) return;
            clear();
            choose(id);
          }}
          testID="hand-keep"
        />
      )}
    </View>
  );
}
