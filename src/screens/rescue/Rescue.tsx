import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { stepLines } from '@/core/case/stepWords';
import { byGravity } from '@/core/case/judgement';
import { runnable } from '@/core/case/runnable';
import { several } from '@/core/shape/counts';
import { ceilingOf, paceOf, livesByLight } from '@/core/record/needs';
import { runningAt } from '@/core/case/lit';
import { expectedOfPlan, foretoldEntry } from '@/core/case/foretold';
import { AS_PRINTED, harmFrom } from '@/core/easing/accustomed';
import { entryOf, startPlan, typeIn } from '@/state/commands/running';
import { together } from '@/state/commands/edit';
import { withTold } from '@/state/commands/log';
import { runningOf, useDesk } from '@/state/desk';
import { newPlan, type Situation, useClimb, useEase, useRescue } from '@/state/ease';
import { newId } from '@/state/id';
import { useRunningCeiling } from '@/state/judgement';
import { useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { addDays, localDate, nowUtcIso, shortDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Page } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { RatioRows } from '../shared/RatioRow';
import { WaysDown } from '../shared/WaysDown';
import { parBasis, tenantsOf, umol, usedOf } from '../shared/words';
import { percent } from '@/core/shape/percent';

const AIMS = [
  { value: '1', label: 'All they are used to' },
  { value: '1.15', label: 'A little more' },
] as const;
/** Light stays down so long before it climbs again, days; the climb is gentle. Mark: rule of thumb. */
const REST_DAYS = 14;
const GENTLE = 1.1;

/** What is kept safe and what is looked for, by who lives there. */
const AFTER = {
  corals: {
    save: 'From the coral that matters most, cut one or two fragments while it still looks well and place them low, in shade, apart from each other.',
    watch: [
      'Tonight and tomorrow: polyps in, mucus, a coral that stays shut.',
      'First week: paling from the top, or a pinker, paler, brighter coral. That is a warning, not a success.',
      'Second and third week: browning, then bare skeleton at edge or base. Cut a coral free of dying tissue.',
      'Test alkalinity, nitrate and phosphate once; hungry or swinging water makes it worse.',
    ],
  },
  algae: {
    save: 'Put a handful of the healthiest aside, in dim and moving water: a mat grows again from little.',
    watch: [
      'Tonight and tomorrow: tips that turn clear or go limp.',
      'First week: white from the top down, pieces that come off. Take out what falls apart before it rots.',
      'Test nitrate and phosphate once: what dies gives back what it had taken up.',
    ],
  },
} as const;

/** It is done already: tonight's cut, who to move, what to save and watch, and the way back up. */
export function Rescue() {
  const desk = useDesk();
  const { zone, bundle } = desk;
  const nowMs = useNowMs();
  const who = tenantsOf(zone.spots);
  const after = who.one === 'alga' ? AFTER.algae : AFTER.corals;
  const cal = useCalibration(bundle, zone);
  const s: Situation = { zone, past: bundle, cal, nowMs };
  const [aim, setAim] = useState<(typeof AIMS)[number]['value']>('1');
  const [done, setDone] = useState(false);
  const { rescue, error } = useRescue(s, Number(aim));
  const entries = runningAt(bundle.history, zone, utcIso(nowMs));
  const today = localDate(nowMs, zone.timeZone);
  const ceiling = useRunningCeiling(bundle.history, zone, nowMs);
  const rows =
    rescue?.now
      .flatMap((n, i) =>
        livesByLight(zone.spots[i]!)
          ? [
              {
                ...{ ...n, i, ceiling: ceilingOf(zone.spots[i]!, ceiling) },
                harmful: n.ratio > harmFrom(paceOf(zone.spots[i]!)),
              },
            ]
          : [],
      )
      .sort(byGravity) ?? [];
  const worst = rows[0];
  const cut = rescue?.cut ?? null;
  const still = rescue?.over ?? [];
  const start = addDays(today, REST_DAYS);
  const targets = cut?.targets.map((t) => runnable(entries.find((e) => e.groupId === t.groupId)!)) ?? [];
  const back = useEase(
    s,
    cut
      ? {
          planId: null,
          targets,
          from: targets,
          method: cut.method,
          schedule: { kind: 'fastest' },
          ceiling: GENTLE,
          today,
          start,
          meanwhile: cut.setting,
        }
      : null,
  );
  const typeCut = () => {
    if (!cut) return;
    const atUtc = nowUtcIso();
    const coming = (back.answer?.steps ?? [])
      .filter((x) => x.setting > cut.setting + 1e-9)
      .map(({ date, setting }) => ({ date, setting, doneUtc: null }));
    const asked = {
      targets,
      from: targets,
      method: cut.method,
      schedule: { kind: 'fastest' as const },
      ceiling: GENTLE,
    };
    const plan = newPlan(
      zone.id,
      'Climb back after a cut',
      asked,
      [{ date: today, setting: cut.setting, doneUtc: atUtc }, ...coming],
      `Tonight’s cut: ${stepLines(asked, cut.setting).join(', ')}; up again from ${shortDate(start)}.`,
    );
    const entered = cut.targets.map((t) =>
      entryOf(t, {
        id: newId(),
        zoneId: zone.id,
        atUtc,
        ...(coming.length > 0 ? { planId: plan.id } : {}),
      }),
    );
    const told =
      back.answer && coming.length > 0
        ? foretoldEntry(
            { id: newId(), zoneId: zone.id, atUtc, of: plan.name, lastDate: coming.at(-1)!.date },
            expectedOfPlan(zone, back.answer),
          )
        : null;
    const ok = run(
      withTold(
        together(
          'tonight’s cut',
          ...entered.map(typeIn),
          ...(coming.length > 0 ? [startPlan(plan, [])] : []),
        ),
        told,
      ),
    );
    if (ok) setDone(true);
  };

  return (
    <Page
      testID="rescue"
      title="Too much at once"
      under={zone.name}
      sentence={
        <Type kind="sentence" testID="rescue-sentence" style={{ maxWidth: 700 }}>
          {done
            ? `The cut counts as typed in. Rest until ${shortDate(start)}; the way back up stands in the log.`
            : entries.length === 0
              ? 'Nothing is known to be running, so nothing can be too much. Say on the sheet what runs, then come back.'
              : error
                ? `It could not be reckoned: ${error}.`
                : !worst
                  ? rescue
                    ? 'Nobody who lives by light is known here, so nobody can have too much of it.'
                    : 'What everybody is used to is being reckoned.'
                  : (!cut && still.length === 0) ||
                      (!worst.harmful && worst.ratio <= worst.ceiling + AS_PRINTED)
                    ? `Nobody gets more than ${usedOf(rows.reduce((a, b) => (b.ratio > a.ratio ? b : a)))}: nothing needs cutting for its light.${cut ? ' Hold still and watch; cut as below only where one already suffers.' : ''}`
                    : `${zone.spots[worst.i]!.name} gets ${usedOf(worst)}${!cut ? ': make its light darker tonight' : worst.harmful ? ': cut tonight, before it shows' : ''}. It happens; most of it can be saved.`}
        </Type>
      }
      side={
        <>
          <Section title="Save what may be lost">
            <Type kind="label">{after.save}</Type>
            {after === AFTER.corals && (
              <Note kind="eyes">
                Gloves and eye protection when cutting. Some soft corals and zoanthids carry dangerous toxins:
                no cutting under pumps or in warm water, no steam, wash hands and tools, and see a doctor at
                once if anyone feels ill.
              </Note>
            )}
          </Section>
          <Section title="Watch for">
            {after.watch.map((w) => (
              <Type key={w} kind="small">{`· ${w}`}</Type>
            ))}
            <Button label={`Log what ${who.a} shows`} wide onPress={() => router.navigate('/log')} />
          </Section>
          <Note>This is a planning aid, not veterinary advice.</Note>
        </>
      }
    >
      {rows.length > 0 && entries.length > 0 && (
        <Section title="Who gets how much">
          <View testID="rescue-rows">
            <RatioRows
              rows={rows.map(({ i, ratio, bandShare, ceiling }) => ({
                ...{ id: zone.spots[i]!.id, name: zone.spots[i]!.name, ratio, bandShare, ceiling },
                after: cut && !done ? cut.ratios[i]! : null,
              }))}
            />
          </View>
          <Type kind="small">{`Against what each is used to. Light: ${parBasis(cal)}.`}</Type>
        </Section>
      )}
      {cut && !done && (
        <Section title="Tonight">
          <Choice label="Leave of the light" value={aim} onChange={setAim} options={[...AIMS]} />
          <View testID="rescue-cut">
            {stepLines({ targets, from: targets, method: cut.method }, cut.setting).map((l) => (
              <Type key={l} kind="heading">
                {l}
              </Type>
            ))}
          </View>
          <Type kind="small">
            {cut.method === 'cap'
              ? `${percent(cut.setting)} of the caps that run now; the days stay as they are.`
              : 'Fewer circuits and hours, about the middle of the hours they have; these lamps cannot be dimmed.'}
          </Type>
          {still.length > 0 && (
            <Note>{`After this cut ${several(still.map((i) => zone.spots[i]!.name))} would still get more than chosen above: move ${still.length === 1 ? 'it' : 'them'} lower, into shade, or put a screen over the water there.`}</Note>
          )}
          <Button
            label="Typed in"
            kind="filled"
            wide
            onPress={typeCut}
            testID="rescue-typed"
            // without a way back, because it could not be computed, the cut can be typed in all the same
            disabled={back.stale || (back.answer === null && back.error === null)}
          />
          <Type kind="small" testID="rescue-back">
            {back.answer?.refused
              ? `The way back: ${back.answer.refused}.`
              : back.answer
                ? `Then ${REST_DAYS} days of rest and, from ${shortDate(start)}, back up by at most ${GENTLE} × at a time; Today says when.`
                : 'The way back up is being reckoned.'}
          </Type>
        </Section>
      )}
      {still.length > 0 && !done && <WaysDown groups={runningOf(desk, nowMs).groups} />}
      {worst && worst.ratio > 1.15 && (
        <Lower s={s} spotId={zone.spots[worst.i]!.id} name={zone.spots[worst.i]!.name} />
      )}
      {!cut && !done && entries.length > 0 && worst && (
        <Button label="Plan a change instead" wide onPress={() => router.navigate('/ease')} />
      )}
      {done && <Button label="To Today" kind="filled" wide onPress={() => router.navigate('/')} />}
    </Page>
  );
}

/** Darker places for the coral that gets most. */
function Lower({ s, spotId, name }: { s: Situation; spotId: string; name: string }) {
  const climb = useClimb(s, spotId);
  const places = climb?.places.slice(0, -1).reverse().slice(0, 4) ?? [];
  if (places.length === 0) return null;
  return (
    <Section title={`Darker places for ${name}`}>
      <View testID="darker">
        {places.map((p) => (
          <Row key={`${p.xCm} ${p.yCm} ${p.depthCm}`} style={{ minHeight: 44 }}>
            <Type kind="label" style={{ flex: 1 }}>
              {p.name}
            </Type>
            <Type kind="strong">{`${umol(p.light.peak)} µmol`}</Type>
          </Row>
        ))}
      </View>
      <Type kind="small">
        On the tank’s own light map as it runs now. Move it on Tank once it stands there; what it is used to
        goes with it.
      </Type>
    </Section>
  );
}
