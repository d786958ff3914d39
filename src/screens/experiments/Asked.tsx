import { View } from 'react-native';

import { capital, counted } from '@/core/shape/counts';
import { type Experiment, MEASURED, type Measured } from '@/core/record/experiment';
import type { Zone } from '@/core/record/zone';
import { setExperiment } from '@/state/commands/experiments';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { isDate, shortDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { Fold } from '@/ui/Parts';
import { parseNumber } from '@/ui/parseNumber';
import { Sentence, type SetPart } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

interface Props {
  zone: Zone;
  e: Experiment;
}

/** What is asked, in a sentence whose parts can be set. */
export function Asked({ zone, e }: Props) {
  const set = (change: Partial<Experiment>) => run(setExperiment(zone.id, { ...e, ...change }));
  const days = (id: 'phaseDays' | 'restDays', name: string, low: number, high: number): SetPart => ({
    ...{ id, name, value: `${e[id]} days` },
    panel: (
      <FieldRow>
        <ValueField
          label={name}
          value={String(e[id])}
          unit="days"
          numeric
          testID={`experiment-${id}`}
          onCommit={(text) => {
            const v = parseNumber(text);
            if (v === null || !Number.isInteger(v) || v < low || v > high)
              return `Give ${low} to ${high} whole days.`;
            set({ [id]: v });
            return null;
          }}
        />
      </FieldRow>
    ),
  });
  const words = (id: 'name' | 'change', name: string, may: boolean): SetPart => ({
    ...{ id, name, value: e[id] === '' ? 'not said' : e[id] },
    panel: (
      <ValueField
        label={name}
        value={e[id]}
        testID={`experiment-set-${id}`}
        onCommit={(text) => {
          if (!may && text.trim() === '') return 'Ask a question.';
          if (text.trim().length > 120) return 'Give at most 120 characters.';
          set({ [id]: text.trim() });
          return null;
        }}
      />
    ),
  });
  return (
    <Sentence
      testID="experiment-asked"
      parts={[
        words('name', 'The question', false),
        ' B is: ',
        words('change', 'The one change', true),
        '. ',
        {
          ...{ id: 'phases', name: 'Phases', chosen: e.phases },
          value: e.phases === 'AB' ? 'A, then B' : 'A, then B, then A again',
          options: [
            { value: 'AB', label: 'A, then B' },
            { value: 'ABA', label: 'A, then B, then A again' },
          ],
          onChoose: (phases) => set({ phases: phases as Experiment['phases'] }),
        },
        ', each measured over ',
        days('phaseDays', 'Days measured', 3, 365),
        ' after ',
        days('restDays', 'Days of rest before', 0, 120),
        ' of rest, from ',
        {
          ...{ id: 'start', name: 'The first day', value: shortDate(e.start) },
          panel: (
            <FieldRow>
              <ValueField
                label="The first day"
                value={e.start}
                pick="date"
                testID="experiment-start"
                onCommit={(text) => {
                  if (!isDate(text.trim())) return 'Give a date such as 2026-01-31.';
                  set({ start: text.trim() });
                  return null;
                }}
              />
            </FieldRow>
          ),
        },
        ' on; ',
        {
          ...{ id: 'measure', name: 'What is measured', chosen: e.measure, value: MEASURED[e.measure].name },
          options: (Object.keys(MEASURED) as Measured[]).map((m) => ({ value: m, label: MEASURED[m].name })),
          // what was measured in another way says nothing in this one
          ...(e.values.length > 0
            ? {
                note: `${capital(counted(e.values.length, 'value'))} measured so far will be dropped if you choose another. Undo brings back what was dropped.`,
              }
            : {}),
          onChoose: (measure) => measure !== e.measure && set({ measure: measure as Measured, values: [] }),
        },
        '.',
      ]}
    />
  );
}

/** The fragments by name, and where each stands. */
export function Fragments({ zone, e }: Props) {
  const set = (fragments: Experiment['fragments']) => run(setExperiment(zone.id, { ...e, fragments }));
  return (
    <Fold title="Fragments" testID="fragments">
      <View style={{ gap: space.l }}>
        {e.fragments.map((f) => (
          <View key={f.id} style={{ gap: space.s }}>
            <ValueField
              label="Name"
              value={f.name}
              testID={`fragment-${f.name}`}
              onCommit={(text) => {
                if (text.trim() === '' || text.trim().length > 120)
                  return 'Give a name of at most 120 characters.';
                set(e.fragments.map((x) => (x.id === f.id ? { ...x, name: text.trim() } : x)));
                return null;
              }}
            />
            {zone.spots.length > 0 && (
              <Choice
                label={`${f.name} stands at`}
                value={f.spotId ?? ''}
                onChange={(id) =>
                  set(e.fragments.map((x) => (x.id === f.id ? { ...x, spotId: id || null } : x)))
                }
                options={[
                  { value: '', label: 'not said' },
                  ...zone.spots.map((s) => ({ value: s.id, label: s.name })),
                ]}
              />
            )}
            {e.fragments.length > 1 && (
              <Button
                label="Leave it out"
                name={`Leave ${f.name} out`}
                kind="plain"
                onPress={() =>
                  run(
                    setExperiment(zone.id, {
                      ...e,
                      fragments: e.fragments.filter((x) => x.id !== f.id),
                      values: e.values.filter((x) => x.fragmentId !== f.id),
                    }),
                  )
                }
              />
            )}
          </View>
        ))}
        {e.fragments.length < 40 && (
          <Button
            label="One more fragment"
            onPress={() =>
              set([
                ...e.fragments,
                {
                  id: newId(),
                  name: `Fragment ${e.fragments.length + 1}`,
                  spotId: e.fragments.at(-1)!.spotId,
                },
              ])
            }
            testID="fragment-add"
          />
        )}
        <Type kind="small">Fragments of one mother differ least; deal them out by lot, not by looks.</Type>
      </View>
    </Fold>
  );
}
