import { View } from 'react-native';

import { ceilingFor, CEILINGS, PACES } from '@/core/easing/accustomed';
import { kindPace, livesByLight } from '@/core/record/needs';
import { useDesk } from '@/state/desk';
import { changeSettings, useSettings } from '@/state/settings';
import { isDate, shortDate } from '@/state/time';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { printHide } from '@/ui/print';
import { Sentence } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { NumberField } from '../shared/fields';
import { tenantsOf, times } from '../shared/words';
import { BY_HAND, type EaseChoices, type ScheduleKind, type useEaseQuestion } from './question';
import { METHOD_NOTES, METHOD_WORDS } from './words';

const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** How fast, how, in which steps, from when. */
export function EaseChoicesForm({
  choices: c,
  asked,
}: {
  choices: EaseChoices;
  asked: ReturnType<typeof useEaseQuestion>;
}) {
  const ease = useSettings((s) => s.ease);
  const { spots } = useDesk().zone;
  const who = tenantsOf(spots);
  // where nobody but algae lives a ceiling is said as it holds for them
  const paces = spots.filter(livesByLight).map(kindPace);
  const pace = paces.every((p) => p === PACES.algae) && paces.length > 0 ? PACES.algae : PACES.coral;
  const mixed = pace === PACES.coral && paces.includes(PACES.algae);
  const own = spots.filter((s) => s.bears !== undefined);
  const most = (ceiling: number) => `${Math.round(ceilingFor(ceiling, pace) * 100) / 100} ×`;
  // nobody hangs a lamp or moves a coral anew every other day
  const byHand = BY_HAND.includes(asked.method);
  const kinds: { value: ScheduleKind; label: string }[] = [
    ...(asked.canItself ? [{ value: 'itself' as const, label: 'The lamp by itself' }] : []),
    ...(byHand ? [] : [{ value: 'fastest' as const, label: 'As fast as the ceiling lets' }]),
    { value: 'few', label: 'Few changes' },
    ...(byHand
      ? []
      : [
          { value: 'line' as const, label: 'Straight line' },
          { value: 'months' as const, label: 'Over months' },
        ]),
  ];
  const number = (label: string, key: string, value: number, low: number, high: number, unit: string) => (
    <NumberField
      label={label}
      value={value}
      low={low}
      high={high}
      whole
      unit={unit}
      wrong={`Give ${low} to ${high}.`}
      take={(v) => (c.set({ [key]: String(v) }), true)}
      testID={`ease-${key}`}
    />
  );
  return (
    <View style={{ gap: space.l }} {...printHide}>
      <Sentence
        testID="ease-asked"
        parts={[
          'At most ',
          {
            id: 'school',
            name: `Most at a time, times what ${who.a} is used to`,
            value: ease.school === 'own' ? most(ease.ownCeiling) : most(CEILINGS[ease.school]),
            chosen: ease.school,
            options: [
              { value: 'gentle', label: `Gentle, ${most(CEILINGS.gentle)}` },
              { value: 'usual', label: `Usual, ${most(CEILINGS.usual)}` },
              { value: 'brisk', label: `Brisk, ${most(CEILINGS.brisk)}` },
              { value: 'own', label: 'Own' },
            ],
            onChoose: (school) => changeSettings({ ease: { ...ease, school: school as typeof ease.school } }),
          },
          ` what ${who.a} is used to; `,
          {
            id: 'method',
            name: 'How this lamp can do it',
            value: METHOD_WORDS[asked.method].toLowerCase(),
            chosen: asked.method,
            options: asked.methods.map((m) => ({ value: m, label: METHOD_WORDS[m] })),
            onChoose: (method) => c.set({ method, schedule: '' }),
          },
          '; ',
          {
            id: 'steps',
            name: 'In which steps',
            value: (kinds.find((k) => k.value === asked.kind)?.label ?? '').toLowerCase(),
            chosen: asked.kind,
            options: kinds,
            onChoose: (schedule) => c.set({ schedule }),
          },
          '; from ',
          {
            id: 'begins',
            name: 'Begins on',
            value: shortDate(c.start),
            panel: (
              <ValueField
                label="Begins on"
                pick="date"
                value={c.start}
                hint={`${shortDate(c.start)}; year-month-day`}
                onCommit={(text) => {
                  if (!isDate(text.trim())) return 'Give a date such as 2026-01-31.';
                  if (text.trim() < asked.today) return 'That day is past: give today or later.';
                  c.set({ start: text.trim() });
                  return null;
                }}
                testID="ease-start"
              />
            ),
          },
          '.',
        ]}
      />
      {ease.school === 'own' && (
        <NumberField
          label="Own ceiling"
          value={ceilingFor(ease.ownCeiling, pace)}
          low={1.01}
          high={3}
          unit="×"
          wrong="Give 1.01 to 3."
          take={(own) => {
            const ownCeiling = 1 + (own - 1) / pace.stretch;
            changeSettings({ ease: { ...ease, ownCeiling } });
            return true;
          }}
          testID="own-ceiling"
        />
      )}
      {mixed && <Type kind="small">Macroalgae here take twice the step of a coral.</Type>}
      {own.length > 0 && (
        <Type kind="small">
          {`At the usual ceiling ${own.map((s) => `${s.name} bears ${times(s.bears!)}`).join(', ')}, as you have it.`}
        </Type>
      )}
      <Type kind="small">{METHOD_NOTES[asked.method]}</Type>
      {asked.method === 'height' && number('Hung higher at first by', 'raise', c.raiseCm, 2, 120, 'cm')}
      {asked.kind === 'few' && (
        <>
          <FieldRow>
            {number('At most', 'changes', c.changes, 1, 60, 'changes')}
            {number('One every', 'every', c.everyDays, 1, 60, 'days')}
          </FieldRow>
          {asked.method !== 'places' && (
            <Choice
              label="On a"
              value={String(c.weekday)}
              onChange={(v) => c.set({ weekday: v, ...(v === '0' ? {} : { every: '7' }) })}
              options={[
                { value: '0', label: 'any day' },
                ...WEEKDAYS.map((label, i) => ({ value: String(i + 1), label })),
              ]}
            />
          )}
          <Type kind="small">
            The smallest worst step ratio that so many changes allow, also above the ceiling. Once begun,
            nothing goes above what is shown here, whatever happens meanwhile.
          </Type>
        </>
      )}
      {asked.kind === 'line' && (
        <FieldRow>
          {number('From', 'from', c.lineFrom, 1, 99, '% of the target')}
          {number('Over', 'days', c.lineDays, 1, 730, 'days')}
        </FieldRow>
      )}
      {asked.kind === 'months' && (
        <>
          {number('Over', 'months', c.months, 1, 24, 'months')}
          <Type kind="small">
            For high light: a very small step each fortnight. Hold whenever a coral asks for it; months cost
            nothing.
          </Type>
        </>
      )}
    </View>
  );
}
