import { capital, counted, inWords, plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { afterTyping, runningAt } from '@/core/case/lit';
import { verdict } from '@/core/case/verdict';
import { programOf } from '@/core/controller/program';
import { misfits } from '@/core/controller/misfits';
import { dims, hasCap } from '@/core/spectrum/controls';
import { useBench } from '@/state/bench';
import { useDesk } from '@/state/desk';
import { judgementOf, useDraftState } from '@/state/judgement';
import { useAccustomed, useCalibration, useLight } from '@/state/light';
import { useSettings } from '@/state/settings';
import { useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Page } from '@/ui/Page';
import { Note, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { SheetCautions } from '../shared/Cautions';
import { GroupChoice } from '../shared/GroupChoice';
import { NoLamps } from '../shared/NoLamps';
import { parBasis, tenantsOf } from '../shared/words';
import { HeadRow } from './HeadRow';
import { fits, remember, benchAway } from './heads';
import { useHeads } from './useHeads';

/** Put the drafted day into lamp heads, read it back, and only then call it running. */
export function Load() {
  const desk = useDesk();
  return desk.group ? <Loading /> : <NoLamps title="Into the lamp" />;
}

function Loading() {
  const desk = useDesk();
  const { doc, zone, bundle } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const nowMs = useNowMs();
  const nowUtc = utcIso(nowMs);
  const { line, bench, error, again } = useBench();
  const known = useSettings((s) => s.heads);
  const cal = useCalibration(bundle, zone);
  const groups = afterTyping(doc, bundle.history, zone, group.id, nowUtc);
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;
  const { light } = useLight(groups, zone, cal);
  const accustomed = useAccustomed(zone, bundle, cal, nowMs);
  const { state, ceiling, usedToIt } = useDraftState(desk, nowMs, group);
  const judged =
    light && judgementOf(state, zone, groups, light, cal, accustomed?.perSpot ?? null, ceiling, usedToIt);
  const over = judged?.worst?.step?.large ?? false;
  const program = programOf(kind, lit.threads, group.capShare);
  const names = kind.controls.map((c) => c.name);
  const misfit = misfits(kind, lit.threads);

  const all = bench?.heads ?? [];
  const fitting = all.filter((h) => fits(h, kind));
  const others = all.length - fitting.length;
  const [left, setLeft] = useState<readonly string[]>([]);
  const [wet, setWet] = useState<'over' | 'not'>('over');
  const chosen = fitting.filter((h) =>
    left.includes(h.id) ? false : (known[h.id]?.groupId ?? group.id) === group.id,
  );

  const { place, load, capOnly, show, restore, find, steps, results, busy, said } = useHeads(
    desk,
    { bench, line, again },
    { program, names, usedToIt, nowMs },
    chosen,
  );
  return (
    <Page
      testID="load"
      title="Into the lamp"
      under={`${kind.name}, ${zone.name}`}
      sentence={
        <Type kind="sentence" testID="load-sentence" style={{ maxWidth: 700 }}>
          {said ??
            (error
              ? benchAway(error)
              : !bench
                ? 'Looking for lamp heads.'
                : fitting.length === 0
                  ? 'No head with these controls stands on the bench.'
                  : chosen.length === 0
                    ? 'Choose a head to load.'
                    : `${capital(counted(chosen.length, 'head takes', 'heads take'))} this day: ${plural(program.points.length, 'point')}${hasCap(kind) ? `, cap ${Math.round(program.capShare * 100)} %` : ''}.`)}
        </Type>
      }
      side={
        <>
          <Section title="Is it safe?">
            <Type kind="strong" testID="load-safety">
              {judged ? verdict(judged, tenantsOf(zone.spots)) : 'Computing the light …'}
            </Type>
            <Type kind="small">{`Light: ${parBasis(cal)}.`}</Type>
            {over && (
              <Button
                label="Plan how it is eased in"
                kind="filled"
                wide
                onPress={() => router.navigate('/ease?of=draft')}
                testID="load-ease"
              />
            )}
          </Section>
          <Section title="Cautions">
            <SheetCautions switched={!dims(kind)} over={tenantsOf(zone.spots).many} />
          </Section>
        </>
      }
    >
      <GroupChoice />
      {misfit.length > 0 && (
        <Note>{`${kind.controller.name} cannot take this day as it stands: ${misfit.join('; ')}. Fit it first, or expect a refusal.`}</Note>
      )}
      {bench && fitting.length === 0 && (
        <Button
          label={`Put ${group.lamps.length === 1 ? 'a head' : `${inWords(group.lamps.length)} heads`} for this lamp on the bench`}
          kind="filled"
          wide
          onPress={() => void place()}
          testID="place-heads"
        />
      )}
      <View>
        {fitting.map((head) => (
          <HeadRow
            key={head.id}
            head={head}
            line={line!}
            program={program}
            names={names}
            chosen={chosen.includes(head)}
            onChoose={() => {
              const out = chosen.includes(head);
              setLeft(out ? [...left, head.id] : left.filter((x) => x !== head.id));
              if (!out) remember(head.id, group.id);
            }}
            step={busy ? steps[head.id] : undefined}
            result={results[head.id]}
            onRestore={known[head.id]?.before ? () => void restore(head) : undefined}
            onShow={() => void show(head)}
            onFind={
              // told apart by a number alone
              / \(\d+\)$/.test(head.name) ? () => void find(head) : undefined
            }
            busy={busy}
          />
        ))}
      </View>
      {others > 0 && (
        <Type kind="small">{`${plural(others, 'other head')} on the bench ${others === 1 ? 'has' : 'have'} other controls.`}</Type>
      )}
      {chosen.length > 0 && (
        <View style={{ gap: space.m }}>
          <Choice
            label="These lamps hang"
            value={wet}
            onChange={setWet}
            options={[
              { value: 'over', label: 'over the water' },
              { value: 'not', label: 'not yet' },
            ]}
          />
          {wet === 'not' && hasCap(kind) ? (
            <>
              <Note>
                A lamp that is not over the water yet gets its cap first: many start at a bright default.
              </Note>
              <Button
                label="Set the cap"
                kind="filled"
                wide
                disabled={busy}
                onPress={() => void capOnly()}
                testID="cap-first"
              />
            </>
          ) : (
            <Button
              label={over ? 'Load it all the same' : 'Load'}
              kind={over ? 'outlined' : 'filled'}
              wide
              disabled={busy || !judged?.worst}
              onPress={() => void load()}
              testID="load-now"
            />
          )}
          <Type kind="small">
            What each holds is kept first; the day is sent, read back, compared, and what the head emits is
            looked at. Only then does it count as running.
          </Type>
        </View>
      )}
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        <Button label="Bench" onPress={() => router.navigate('/bench')} testID="to-bench" />
        <Button label="Prove by readings" onPress={() => router.navigate('/prove')} testID="to-prove" />
        <Button label="The sheet" kind="plain" onPress={() => router.navigate('/sheet')} />
      </View>
      {runningAt(bundle.history, zone, nowUtc).find((e) => e.groupId === group.id)?.sure === 'loaded' &&
        !busy && <Type kind="small">What runs here was loaded and read back.</Type>}
    </Page>
  );
}
