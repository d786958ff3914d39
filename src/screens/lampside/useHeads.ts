import { useState } from 'react';

import { runningAt } from '@/core/case/lit';
import type { Program } from '@/core/controller/program';
import { plural } from '@/core/shape/counts';
import { headFor, type useBench } from '@/state/bench';
import { freeze, setSure, typeIn } from '@/state/commands/running';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { findHead, loadHead, type LoadResult, type LoadStep, restoreHead, showHead } from '@/state/load';
import { runIn } from '@/state/session';
import { useSettings } from '@/state/settings';
import { nowUtcIso, utcIso, wallMinute } from '@/state/time';
import { answerSchema, type Head, headSchema } from '@/wire/wire';

import { remember } from './heads';

/** What is done with the heads of a group, one thing at a time, and how each went: put there, found, capped, loaded, shown, put back. */
export function useHeads(
  { doc, zone, bundle, ...desk }: Desk,
  { bench, line, again }: Pick<ReturnType<typeof useBench>, 'bench' | 'line' | 'again'>,
  {
    program,
    names,
    usedToIt,
    nowMs,
  }: { program: Program; names: readonly string[]; usedToIt: boolean; nowMs: number },
  chosen: readonly Head[],
) {
  const group = desk.group!;
  const kind = desk.lampKind!;
  const known = useSettings((s) => s.heads);
  const [steps, setSteps] = useState<Record<string, LoadStep>>({});
  const [results, setResults] = useState<Record<string, LoadResult>>({});
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<string | null>(null);

  const place = async () => {
    if (!bench || bench.heads.length === 0)
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
    const entry = runningAt(bundle.history, zone, utcIso(nowMs)).find((e) => e.groupId === group.id);
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
  const find = async (head: Head) => {
    const found = await findHead(line!, head);
    setSaid(
      found.ok
        ? `${head.name} is dimly lit for a minute: that is the lamp it is.`
        : `${head.name} did not show itself: ${found.message}.`,
    );
  };
  return { place, load, capOnly, show, restore, find, steps, results, busy, said };
}
