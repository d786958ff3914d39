import { allOf, capital, inWords } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { runningAt } from '@/core/case/lit';
import { driveAt } from '@/core/controller/program';
import { formatTime } from '@/core/day/clock';
import { DriveBars } from '@/pieces/DriveBars';
import { headFor, headsOfEveryKind, useBench, useLive } from '@/state/bench';
import { useDesk } from '@/state/desk';
import { useSettings } from '@/state/settings';
import { useNowMs, utcIso, wallMinute } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Page } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { answerSchema, headSchema, type HeadMake } from '@/wire/wire';

import { GroupChoice } from '../shared/GroupChoice';
import { HeadSheet } from './HeadSheet';
import { alarms, remember, shouldRun, benchAway } from './heads';

const SPEEDS = [
  { value: '1', label: 'as it is' },
  { value: '60', label: 'an hour a minute' },
  { value: '1440', label: 'a day a minute' },
] as const;

/** Simulated lamp heads: what each holds and emits, beside what it should, with faults on request. */
export function BenchPage() {
  const desk = useDesk();
  const { zone, bundle, doc, group, lampKind } = desk;
  const nowMs = useNowMs();
  const { line, bench, error, again } = useBench();
  const known = useSettings((s) => s.heads);
  const [opened, setOpened] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const entries = runningAt(bundle.history, zone, utcIso(nowMs));
  const heads = bench?.heads ?? [];
  const live = useLive(
    line,
    heads.map((h) => h.id),
  );
  const open = heads.find((h) => h.id === opened);

  const tell = async (path: string, body: unknown) => {
    setProblem(null);
    const said = await line!.send('POST', path, body, answerSchema);
    if (!said.ok) setProblem(said.message);
    await again();
  };
  const add = async (makes: readonly HeadMake[]) => {
    setProblem(null);
    if (heads.length === 0)
      await line!.send(
        'POST',
        '/clock',
        { minute: wallMinute(nowMs, zone.timeZone), speed: 1 },
        answerSchema,
      );
    for (const make of makes) {
      const head = await line!.send('POST', '/heads', make, headSchema);
      if (!head.ok) {
        setProblem(head.message);
        break;
      }
      if (group) remember(head.value.id, group.id, null);
    }
    await again();
  };
  const rows = heads.map((head) => {
    const of = zone.groups.find((g) => g.id === known[head.id]?.groupId);
    const entry = entries.find((e) => e.groupId === of?.id);
    const emits = live[head.id];
    const program = shouldRun(entry);
    return {
      head,
      emits,
      should: entry && program && emits ? driveAt(entry.lampKind, program, emits.clockMinute) : null,
      wrong: alarms(doc, of, entry, head, emits),
    };
  });
  const troubled = rows.filter((r) => r.wrong.length > 0).length;

  return (
    <Page
      testID="bench"
      title="Bench"
      under="Simulated lamp heads to load and to prove with; nothing here is a real lamp"
      sentence={
        <Type kind="sentence" testID="bench-sentence" style={{ maxWidth: 700 }}>
          {error
            ? benchAway(error)
            : !bench
              ? 'Looking for the bench.'
              : heads.length === 0
                ? 'No head stands on the bench yet.'
                : troubled === 0
                  ? `${heads.length === 1 ? 'The head does' : `${capital(allOf(heads.length))} heads do`} what is known to run.`
                  : `${capital(inWords(troubled))} of ${inWords(heads.length)} ${troubled === 1 ? 'needs' : 'need'} a look.`}
        </Type>
      }
      side={
        <>
          <Section title="Clock of the bench">
            <Type testID="bench-clock">
              {bench ? `${formatTime(Math.floor(bench.minute) % 1440)} on the bench.` : '…'}
            </Type>
            <Choice
              label="It runs"
              value={String(bench?.speed ?? 1)}
              onChange={(v) => void tell('/clock', { speed: Number(v) })}
              options={[...SPEEDS]}
            />
            <Button
              label="Set it to now"
              disabled={!line}
              onPress={() => void tell('/clock', { minute: wallMinute(nowMs, zone.timeZone), speed: 1 })}
              testID="bench-now"
            />
            <Type kind="small">
              {line?.where === 'server'
                ? 'The bench stands in the server that serves this page; its heads stay when the page is closed.'
                : Object.keys(known).length > 0
                  ? 'No server answers here. Heads placed before are away with it, or went with the page they stood in. This bench stands in the page and goes with it; once a server is back, open the page anew.'
                  : 'There is no server here: the bench stands in this page and goes with it.'}
            </Type>
          </Section>
          <Note kind="mains">
            With real lamps: plug out before hands go in, and trust what you read at the corals more than what
            any screen says is loaded.
          </Note>
        </>
      }
    >
      <GroupChoice />
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        {group && lampKind && (
          <>
            <Button
              label={
                group.lamps.length === 1
                  ? 'A head for this lamp'
                  : `Heads for ${inWords(group.lamps.length)} lamps`
              }
              kind={heads.length === 0 ? 'filled' : 'outlined'}
              disabled={!line}
              onPress={() => void add(group.lamps.map((l) => headFor(lampKind, `${group.name} ${l.name}`)))}
              testID="add-heads"
            />
            <Button
              label="One of every controller"
              disabled={!line}
              onPress={() => void add(headsOfEveryKind(lampKind))}
              testID="add-kinds"
            />
          </>
        )}
        <Button label="Load a day" onPress={() => router.navigate('/load')} testID="to-load" />
      </View>
      {problem && (
        <Type kind="label" role="alert">
          {`▲ ${problem}`}
        </Type>
      )}
      {bench && heads.length === 0 && (
        <Type>
          Here will stand heads with clocks, schedules and faults of their own. Load a day into one, break
          something, and see what Load, the live view and Prove make of it.
        </Type>
      )}
      <View>
        {rows.map(({ head, emits, should, wrong }) => (
          <Row
            key={head.id}
            onPress={() => setOpened(head.id)}
            name={`${head.name}: ${wrong.join(' ') || 'as it should be'}. Opens its faults`}
          >
            <View style={{ flex: 1 }} testID={`head-${head.name}`}>
              <Type kind="label">{head.name}</Type>
              <Type kind="small">
                {emits === null
                  ? 'no answer'
                  : emits
                    ? `${formatTime(Math.floor(emits.clockMinute) % 1440)}, ${emits.mode === 'program' ? (head.activeRevision > 0 ? 'runs its program' : 'dark') : emits.mode === 'manual' ? 'in manual' : 'in an interlude'}`
                    : '…'}
              </Type>
              {wrong.map((w) => (
                <Type key={w} kind="small" testID={`alarm-${head.name}`}>{`▲ ${w}`}</Type>
              ))}
            </View>
            {emits && (
              <DriveBars
                drive={emits.drive}
                should={should}
                name={`${head.name} emits ${emits.drive.map((v, i) => `${head.controls[i]?.name} ${Math.round(v * 100)} %`).join(', ')}`}
              />
            )}
          </Row>
        ))}
      </View>
      {rows.length > 0 && (
        <Type kind="small">Bars: what drives each colour now. Marks: what it should be, from what runs.</Type>
      )}
      {open && line && (
        <HeadSheet
          head={open}
          line={line}
          benchMinute={bench?.minute ?? 0}
          again={again}
          onClose={() => setOpened(null)}
        />
      )}
    </Page>
  );
}
