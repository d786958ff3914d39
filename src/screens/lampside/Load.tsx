import { capital, counted, inWords, plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { afterTyping, runningAt } from '@/core/case/lit';
import { verdict } from '@/core/case/verdict';
import { type Program, programChanges, programOf } from '@/core/controller/program';
import { misfits } from '@/core/controller/misfits';
import { dims, hasCap } from '@/core/spectrum/controls';
import { headFor, must, useBench } from '@/state/bench';
import { freeze, setSure, typeIn } from '@/state/commands/running';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { judgementOf, useDraftState } from '@/state/judgement';
import { useAccustomed, useCalibration, useLight } from '@/state/light';
import { findHead, loadHead, type LoadResult, type LoadStep, restoreHead, showHead } from '@/state/load';
import { runIn } from '@/state/session';
import { useSettings } from '@/state/settings';
import { nowUtcIso, useNowMs, utcIso, wallMinute } from '@/state/time';
import { useQuery } from '@tanstack/react-query';
import { Button } from '@/ui/Button';
import { Check, Choice } from '@/ui/Field';
import { Page } from '@/ui/Page';
import { Fold, Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { answerSchema, type Head, headSchema, heldSchema } from '@/wire/wire';

import { SheetCautions } from '../shared/Cautions';
import { GroupChoice } from '../shared/GroupChoice';
import { NoLamps } from '../shared/NoLamps';
import { parBasis, tenantsOf } from '../shared/words';
import { fits, remember, benchAway } from './heads';

/** Put the drafted day into lamp heads, read it back, and only then call it running. */
export function Load() {
  const desk = useDesk();
  return desk.group ? <Loading /> : <NoLamps title="Into the lamp" />;
}

const ENDINGS = { proven: '✓', held: '?', old: '○', mismatch: '▲', unknown: '?' } as const;

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
  const [steps, setSteps] = useState<Record<string, LoadStep>>({});
  const [results, setResults] = useState<Record<string, LoadResult>>({});
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const chosen = fitting.filter((h) =>
    left.includes(h.id) ? false : (known[h.id]?.groupId ?? group.id) === group.id,
  );

  const place = async () => {
    if (all.length === 0)
      await line!.send(
        'POST',
        '/clock',
        { minute: wallMinute(nowMs, zone.timeZone), speed: 1 },
        answerSchema,
      );
    for (const l of group.lamps) {
      const head = await line!.send('POST', '/heads', headFor(kind, `${group.name} ${l.name}`), headSchema);
      if (!head.ok) {
        setSaid(`No head could be put there: ${head.message}.`);
        break;
      }
      remember(head.value.id, group.id, null);
    }
    await again();
  };

  const load = async () => {
    setBusy(true);
    setSaid(null);
    setResults({});
    // one head after the other: a mistake then stops at one lamp
    const ended: LoadResult[] = [];
    for (const head of chosen) {
      const began = Date.parse(nowUtcIso());
      const from = bench!.minute;
      const speed = bench!.speed;
      const result = await loadHead({
        line: line!,
        headId: head.id,
        program,
        kind,
        names,
        clockMinute: () => (from + ((Date.parse(nowUtcIso()) - began) / 60_000) * speed) % 1440,
        newId,
        onStep: (step) => setSteps((old) => ({ ...old, [step.headId]: step })),
      });
      ended.push(result);
      remember(head.id, group.id, result.before);
      setResults((old) => ({ ...old, [head.id]: result }));
    }
    setBusy(false);
    await again();
    const good = ended.filter((r) => r.ending === 'proven' || r.ending === 'held').length;
    const dark = ended.filter((r) => r.ending === 'held').length;
    if (good === ended.length && good > 0) {
      // what was loaded is the day this was asked of; by now another case may be open
      const done = runIn(
        doc.id,
        typeIn(
          freeze(doc, zone, group, { id: newId(), atUtc: nowUtcIso(), usedTo: usedToIt, sure: 'loaded' }),
        ),
      );
      setSaid(
        done
          ? `Read back from every head and compared: this day runs now.${dark > 0 ? ' What it emits is not proven yet: show it for a minute, or come back when it is lit.' : ''}`
          : `Loaded, but not written down: it belongs to ${doc.name}. Open that and say there that this day is typed in.`,
      );
    } else {
      setSaid(
        `${good} of ${plural(ended.length, 'head')} ${good === 1 ? 'runs' : 'run'} the new day. It does not count as running until every chosen head does.`,
      );
    }
  };
  const capOnly = async () => {
    setBusy(true);
    setSaid(null);
    const ended = await Promise.all(
      chosen.map((h) =>
        line!
          .send('POST', `/heads/${h.id}/cap`, { capShare: program.capShare }, answerSchema)
          .then((said) => said.ok),
      ),
    );
    setBusy(false);
    await again();
    const good = ended.filter(Boolean).length;
    setSaid(
      good === ended.length
        ? `The cap stands in ${plural(good, 'head')}. Hang the lamp, then load the day.`
        : `${good} of ${plural(ended.length, 'head')} took the cap; the others did not answer. Do not hang them yet.`,
    );
  };
  const show = async (head: Head) => {
    setBusy(true);
    const result = await showHead({
      line: line!,
      headId: head.id,
      program,
      kind,
      names,
      clockMinute: null,
      newId,
      onStep: (step) => setSteps((old) => ({ ...old, [step.headId]: step })),
    });
    setBusy(false);
    const entry = runningAt(bundle.history, zone, nowUtc).find((e) => e.groupId === group.id);
    // what it shows speaks against what was written down as loaded
    if (result.ending === 'mismatch' && entry?.sure === 'loaded')
      runIn(doc.id, setSure(entry.id, 'doubted', `shown: ${result.words}`));
    const before = known[head.id]?.before ?? null;
    setResults((old) => ({ ...old, [head.id]: { ...result, before } }));
    await again();
  };
  const restore = async (head: Head) => {
    const before = known[head.id]?.before;
    if (!before || !line) return;
    setBusy(true);
    const result = await restoreHead({
      line,
      headId: head.id,
      before,
      kind,
      names,
      newId,
      onStep: (step) => setSteps((old) => ({ ...old, [step.headId]: step })),
    });
    setBusy(false);
    setResults((old) => ({
      ...old,
      [head.id]: {
        ...result,
        words: result.ending === 'proven' ? 'what it held before is back' : result.words,
      },
    }));
    setSaid(
      result.ending === 'proven' || result.ending === 'held'
        ? `${head.name} runs again what it ran before. Undo takes the running day back here.`
        : `${head.name} could not be put back: ${result.words}.`,
    );
    await again();
  };

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
              / \(\d+\)$/.test(head.name)
                ? () =>
                    void findHead(line!, head).then((found) =>
                      setSaid(
                        found.ok
                          ? `${head.name} is dimly lit for a minute: that is the lamp it is.`
                          : `${head.name} did not show itself: ${found.message}.`,
                      ),
                    )
                : undefined
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

interface HeadRowProps {
  head: Head;
  line: NonNullable<ReturnType<typeof useBench>['line']>;
  program: Program;
  names: readonly string[];
  chosen: boolean;
  onChoose: () => void;
  step: LoadStep | undefined;
  result: LoadResult | undefined;
  onRestore: (() => void) | undefined;
  onShow: () => void;
  onFind: (() => void) | undefined;
  busy: boolean;
}

/** A head, what it holds against what it would get, and how it went. */
function HeadRow({
  head,
  line,
  program,
  names,
  chosen,
  onChoose,
  step,
  result,
  onRestore,
  onShow,
  onFind,
  busy,
}: HeadRowProps) {
  const held = useQuery({
    queryKey: ['held', head.id, head.activeRevision, head.storedRevision, result?.ending ?? ''],
    queryFn: () => must(line.send('GET', `/heads/${head.id}/schedule`, null, heldSchema)),
    retry: 0,
    networkMode: 'always',
  });
  const changes = held.data ? programChanges(held.data.active, program, names) : null;
  return (
    <View style={{ gap: space.xs, paddingBottom: space.s }} testID={`load-${head.name}`}>
      <Check
        label={head.name}
        checked={chosen}
        onChange={onChoose}
        disabled={busy}
        aside={head.profile.name}
      />
      {onFind && (
        <Button
          label="Which lamp is it? Light it for a minute"
          name={`Which lamp is ${head.name}? Light it for a minute`}
          kind="plain"
          disabled={busy}
          onPress={onFind}
          testID={`find-${head.name}`}
        />
      )}
      {step && !result && (
        <Type kind="small" role="status">{`${step.words}, ${Math.round(step.share * 100)} %`}</Type>
      )}
      {result && (
        <Type
          kind="label"
          testID={`ending-${head.name}`}
        >{`${ENDINGS[result.ending]} ${result.words.charAt(0).toUpperCase()}${result.words.slice(1)}.`}</Type>
      )}
      {held.isError && !result && (
        <Type kind="small">▲ It does not answer, so what it holds is not known.</Type>
      )}
      {changes && !step && (
        <Fold
          title={
            changes.length === 0
              ? 'Holds this day already'
              : `${plural(changes.length, 'difference')} from what it holds`
          }
        >
          <View>
            {changes.slice(0, 40).map((c) => (
              <Type key={c} kind="small">{`· ${c}`}</Type>
            ))}
          </View>
        </Fold>
      )}
      {result?.ending === 'held' && (
        <>
          <Button
            label="Show its brightest point for a minute"
            disabled={busy}
            onPress={onShow}
            testID={`show-${head.name}`}
          />
          <Type kind="small">Light in the dark startles fish: do it while somebody is there, or wait.</Type>
        </>
      )}
      {result && onRestore && (
        <Row>
          <Button
            label="Put back what it held"
            disabled={busy}
            onPress={onRestore}
            testID={`restore-${head.name}`}
          />
        </Row>
      )}
    </View>
  );
}
