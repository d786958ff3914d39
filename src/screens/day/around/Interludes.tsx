import { useTyped } from '@/state/typed';
import { useState } from 'react';
import { View } from 'react-native';

import { interludeCost } from '@/core/case/acted';
import { CAMERA_MINUTES, CAMERA_STRENGTH, whitestPlate } from '@/core/case/cameraLight';
import { levelsOfGroups } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { largeWords } from '@/core/case/verdict';
import { formatTime, isoTime, parseTypedTime } from '@/core/day/clock';
import { type InterludeKind, overrules } from '@/core/day/extras';
import { newId } from '@/state/id';
import { isDate, localDate, shortDate, useNowMs, wallMinute } from '@/state/time';
import { Button } from '@/ui/Button';
import { FieldRow, TextField } from '@/ui/Field';
import { Sentence } from '@/ui/Sentence';
import { usePageSize } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';
import { parseNumber } from '@/ui/parseNumber';

import { percent } from '@/core/shape/percent';
import { dims, hasCap } from '@/core/spectrum/controls';
import { levelsOfMix } from '../../mix/view';
import { Glimpse } from '../../shared/Look';
import { type PartProps, setting } from './part';

/** What an interlude is for: as it stands in the sentence, how long and how strong it begins. */
const KINDS: Readonly<Record<InterludeKind, { as: string; minutes: number; strength: number }>> = {
  photograph: { as: 'as a camera wants it', minutes: CAMERA_MINUTES, strength: CAMERA_STRENGTH },
  feeding: { as: 'dim, so that polyps open', minutes: 15, strength: 0.3 },
  viewing: { as: 'to be looked at', minutes: 120, strength: 0.5 },
  maintenance: { as: 'dim and white, for hands in the water', minutes: 60, strength: 0.25 },
};

/** A group as its interludes run: without its cap where the lamp holds none meanwhile. */
const under = (lit: LitGroup): LitGroup =>
  lit.lampKind.controller.interludeUnderCap ? lit : { ...lit, day: { ...lit.day, capShare: 1 } };

/** Interludes: one mix for a stretch of time, with its end and its cost. */
export function Interludes({ desk, groups, light, judge }: PartProps) {
  const { doc, zone, spot, spotIndex } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const page = usePageSize();
  const today = localDate(nowMs, zone.timeZone);
  const plates = doc.plates.filter((p) => p.lampKindId === kind.id);
  const typed = useTyped(`interlude ${zone.id}`);
  const [what, setWhat] = typed.of<InterludeKind>('what', 'photograph');
  const [plateId, setPlateId] = typed.of('plateId', whitestPlate(kind, plates)?.id ?? '');
  const [date, setDate] = typed.of('date', today);
  const [time, setTime] = typed.of('time', isoTime(Math.ceil(wallMinute(nowMs, zone.timeZone) / 5) * 5));
  const [minutes, setMinutes] = typed.of('minutes', String(KINDS.photograph.minutes));
  // circuits are on or off
  const dimmed = dims(kind);
  const strongOf = (of: InterludeKind) => String(dimmed ? KINDS[of].strength * 100 : 100);
  const [strength, setStrength] = typed.of('strength', strongOf('photograph'));
  const [error, setError] = useState<string | null>(null);
  const all = group.extras?.interludes ?? [];
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;

  // how the tank looks in it, whatever else is lit then
  const [shown, share, from] = [
    plates.find((p) => p.id === plateId),
    parseNumber(strength),
    parseTypedTime(time),
  ];
  const levels =
    shown && share !== null && share >= 0 && share <= 100 && from !== null
      ? levelsOfGroups(groups, from).map((l, g) =>
          g === index ? levelsOfMix(under(lit), shown.mix, share / 100) : l,
        )
      : null;

  const choose = (next: InterludeKind) => {
    setWhat(next);
    setMinutes(String(KINDS[next].minutes));
    setStrength(strongOf(next));
  };
  const add = () => {
    const fromMinute = parseTypedTime(time);
    const length = parseNumber(minutes);
    const share = parseNumber(strength);
    const plate = plates.find((p) => p.id === plateId);
    if (fromMinute === null) return setError('From: give a time of day such as 19:30.');
    if (!isDate(date.trim())) return setError('Date: give a date such as 2026-12-24.');
    if (length === null || length < 1 || length > 720) return setError('Minutes: give 1 to 720.');
    if (share === null || share < 0 || share > 100) return setError('Strength: give 0 to 100 %.');
    if (!plate) return setError('Mix: choose a plate; Mix makes them.');
    if (
      date.trim() < today ||
      (date.trim() === today && fromMinute + length <= wallMinute(nowMs, zone.timeZone))
    )
      return setError('That time is past: give one to come.');
    setError(null);
    typed.clear();
    setting(group, {
      interludes: [
        ...all,
        {
          id: newId(),
          kind: what,
          date: date.trim(),
          fromMinute,
          minutes: Math.round(length),
          strengthShare: share / 100,
          mix: plate.mix,
          mixName: plate.name,
        },
      ],
    });
  };
  const wins = (id: string): string | null => {
    const other = overrules(all, id);
    return other && `that of ${shortDate(other.date)} ${formatTime(other.fromMinute)}`;
  };
  /** What an interlude costs or adds at the coral, and what it is beside what the corals are used to. */
  const costOf = (id: string): string => {
    const par = light && spotIndex >= 0 ? light.par[index]![spotIndex]! : null;
    const cost = par && interludeCost(lit, id, zone.timeZone, par);
    if (!light || !cost) return 'its cost follows with the light';
    const change = cost.withDli - cost.withoutDli;
    const judged = judge(groups.map((g, i) => (i === index ? cost.lit : g)));
    const large = judged ? largeWords(judged) : '';
    const words =
      Math.abs(change) < 0.005
        ? 'costs no light worth naming'
        : `${change < 0 ? 'costs' : 'adds'} ${Math.abs(change).toFixed(2)} mol that day at ${spot!.name} (${percent(Math.abs(change) / Math.max(cost.withoutDli, 1e-9))})`;
    return large ? `${words}. ${large}` : words;
  };
  return (
    <Section title="Interludes">
      <Type kind="small">
        {`One mix for a stretch of time.${!hasCap(kind) ? '' : kind.controller.interludeUnderCap ? ' The cap holds meanwhile.' : ' On this lamp the cap does not hold meanwhile.'}`}
      </Type>
      {all.length === 0 && <Type quiet>None is set. The next one begins here.</Type>}
      <View testID="interludes">
        {[...all]
          .sort((a, b) => `${a.date}${a.fromMinute}`.localeCompare(`${b.date}${b.fromMinute}`))
          .map((i) => (
            <Row key={i.id}>
              <View style={{ flex: 1 }}>
                <Type kind="label">
                  {`${shortDate(i.date)} ${formatTime(i.fromMinute)}–${formatTime(i.fromMinute + i.minutes)}, ${KINDS[i.kind].as}`}
                </Type>
                <Type kind="small">{`${i.mixName}${dimmed ? ` at ${percent(i.strengthShare)}` : ''}; ${costOf(i.id)}.`}</Type>
                {wins(i.id) && (
                  <Type kind="small">{`Where both run, ${wins(i.id)} wins: it was set later.`}</Type>
                )}
              </View>
              <Button
                label="Remove"
                name={`Remove the interlude of ${shortDate(i.date)} ${formatTime(i.fromMinute)}`}
                kind="plain"
                onPress={() => setting(group, { interludes: all.filter((x) => x.id !== i.id) })}
              />
            </Row>
          ))}
      </View>
      {plates.length > 0 ? (
        <Sentence
          testID="interlude-sentence"
          parts={[
            'For ',
            {
              id: 'interlude-when',
              name: 'When',
              value: `${minutes} min from ${from === null ? time : formatTime(from)} on ${isDate(date.trim()) ? shortDate(date.trim()) : date}`,
              panel: (
                <>
                  <FieldRow>
                    <TextField
                      label="Date"
                      value={date}
                      onChange={setDate}
                      pick="date"
                      testID="interlude-date"
                    />
                    <TextField
                      label="From"
                      value={time}
                      onChange={setTime}
                      pick="time"
                      testID="interlude-time"
                    />
                  </FieldRow>
                  <TextField
                    label="For"
                    value={minutes}
                    onChange={setMinutes}
                    unit="min"
                    numeric
                    testID="interlude-minutes"
                  />
                </>
              ),
            },
            ', light ',
            {
              id: 'interlude-what',
              name: 'What for',
              value: KINDS[what].as,
              chosen: what,
              // what asks for dim light is nothing for circuits
              options: (Object.keys(KINDS) as InterludeKind[])
                .filter((k) => dimmed || KINDS[k].strength >= 0.5)
                .map((k) => ({ value: k, label: KINDS[k].as })),
              onChoose: (k) => choose(k as InterludeKind),
            },
            ': ',
            {
              id: 'interlude-mix',
              name: 'Mix',
              value: shown?.name ?? 'no mix yet',
              chosen: plateId,
              options: plates.map((p) => ({ value: p.id, label: p.name })),
              onChoose: setPlateId,
            },
            ...(dimmed
              ? [
                  ' at ',
                  {
                    id: 'interlude-how',
                    name: 'Strength',
                    value: `${strength} %`,
                    panel: (
                      <TextField
                        label="Strength"
                        value={strength}
                        onChange={setStrength}
                        unit="% of its mix"
                        numeric
                        testID="interlude-strength"
                      />
                    ),
                  },
                ]
              : []),
            '; then the day goes on.',
          ]}
        />
      ) : (
        <Note>No plate of this lamp yet: Mix makes one, and then it can be shown for a while.</Note>
      )}
      {levels && light && (
        <Glimpse
          {...{ desk, groups, light, levels }}
          eye={what === 'photograph' ? 'camera' : undefined}
          brightness={what === 'photograph' ? 'evened' : undefined}
          width={page.side}
          name={`The tank in this interlude${what === 'photograph' ? ', through a camera' : ''}`}
        />
      )}
      {error && (
        <Type kind="label" role="alert" testID="interlude-error">
          {`▲ ${error}`}
        </Type>
      )}
      <Button label="Set this interlude" kind="filled" onPress={add} testID="add-interlude" />
      {what === 'maintenance' && (
        <Note kind="mains">
          Plug out before hands go in; shade your eyes from the lamp. A dim interlude is no safety.
        </Note>
      )}
    </Section>
  );
}
