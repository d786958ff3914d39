import { router, useLocalSearchParams } from 'expo-router';
import { useEffect, useMemo, useState } from 'react';
import { View } from 'react-native';
import Download from 'lucide-react-native/icons/download';
import Printer from 'lucide-react-native/icons/printer';

import type { MetChange } from '@/core/case/replay';
import { stillness } from '@/core/case/stillness';
import { lanes, type LogLine, timeline } from '@/core/case/timeline';
import type { EasingPlan } from '@/core/record/history';
import { kindOf, type LogEvent, logKinds } from '@/core/record/log';
import type { LogKind } from '@/core/record/log/logKind';
import { removeEvent } from '@/state/commands/log';
import { useDesk } from '@/state/desk';
import { useAccustomed, useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { localDate, longDate, shortDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { printPage } from '@/ui/files';
import { Page } from '@/ui/Page';
import { Section } from '@/ui/Parts';
import { Sentence } from '@/ui/Sentence';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { part } from '@/ui/part';
import { Type } from '@/ui/Type';

import type { PlanAct } from '../ease/PlanSheet';
import { EntrySheet, Foretold, PlanSheet, SignSheet, Triage } from '../sheets';
import { offer } from '../shared/formats';
import { DraftLine } from '../shared/DraftLine';
import { PlanRow } from '../shared/PlanRow';
import { QuickLog } from '../shared/QuickLog';
import { OfSpot } from '../shared/OfSpot';
import { stillWords, togetherWords } from '../shared/stillWords';
import { tenantsOf } from '../shared/words';

import { EntriesFile } from './EntriesFile';
import { LogLanes, PAPER_WIDTH } from './LogLanes';
import { LogList } from './LogList';
import { fits, LogSearch, NOTHING_SOUGHT } from './LogSearch';
import type { Propose } from './SignSheet';

const LogPrint = part(async () => (await import('../experiments/part')).LogPrint);

/** Every lane of the log. */
const ALL = 'Everything';
const AT_FIRST = 60;
const NO_CHANGES: readonly MetChange[] = [];

type Open =
  | { what: 'sign' }
  | { what: 'entry'; kind: LogKind; event?: LogEvent }
  | { what: 'line'; line: LogLine }
  | { what: 'plan'; plan: EasingPlan; act?: PlanAct; days?: number };

/** What happened here, newest first: written by the app from what ran, and by the keeper in two taps. */
export function Log() {
  const desk = useDesk();
  const { zone, bundle, spot, spotIndex } = desk;
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const accustomed = useAccustomed(zone, bundle, cal, nowMs);
  const [shown, setShown] = useState('all');
  const [all, setAll] = useState(false);
  const [printing, setPrinting] = useState(false);
  useEffect(() => {
    const done = () => setPrinting(false);
    globalThis.addEventListener?.('afterprint', done);
    return () => globalThis.removeEventListener?.('afterprint', done);
  }, []);
  const [sought, setSought] = useState(NOTHING_SOUGHT);
  const {
    enter,
    entry,
    plan: planned,
  } = useLocalSearchParams<{
    enter?: string;
    entry?: string;
    plan?: string;
  }>();
  const entered = logKinds().find((k) => k.kind === enter);
  const [opened, setOpen] = useState<Open | null>(
    entered?.form ? { what: 'entry', kind: entered } : enter === 'sign' ? { what: 'sign' } : null,
  );
  /** what the address named and was closed again */
  const [closed, setClosed] = useState<string | undefined>();
  const close = () => {
    setOpen(null);
    setClosed(entry ?? planned);
  };
  const lines = useMemo(
    () =>
      timeline(
        zone,
        bundle.history,
        bundle.log,
        accustomed?.changes ?? [],
        spotIndex,
        bundle.readings.sessions,
      ),
    [zone, bundle.history, bundle.log, bundle.readings.sessions, accustomed?.changes, spotIndex],
  );
  const filtered = useMemo(
    () =>
      shown === 'all' && sought === NOTHING_SOUGHT
        ? lines
        : lines.filter((l) => (shown === 'all' || l.lane === shown) && fits(l, sought, zone.timeZone)),
    [lines, shown, sought, zone.timeZone],
  );
  const lanesInUse = useMemo(() => {
    const inUse = new Set(lines.map((l) => l.lane));
    return lanes().filter((l) => l.always || inUse.has(l.id));
  }, [lines]);
  const shownLines = useMemo(() => (all ? filtered : filtered.slice(0, AT_FIRST)), [all, filtered]);
  const still = useMemo(
    () => stillness(zone, bundle.history, bundle.log, utcIso(nowMs)),
    [zone, bundle.history, bundle.log, nowMs],
  );
  const plans = bundle.history.plans.filter(
    (p) => p.zoneId === zone.id && (p.state === 'active' || p.state === 'paused'),
  );
  const running = plans.find((p) => p.state === 'active');
  // an address names an entry or a plan: it is opened once it is there
  const named = entry !== undefined ? lines.find((l) => l.event?.id === entry) : undefined;
  const namedPlan = plans.find((p) => p.id === planned);
  const open: Open | null =
    opened ??
    (closed !== undefined && closed === (entry ?? planned)
      ? null
      : named
        ? { what: 'line', line: named }
        : namedPlan
          ? { what: 'plan', plan: namedPlan }
          : null);
  // as it is now: answers change it while it is open
  const shownEvent =
    open?.what === 'line' ? bundle.log.events.find((e) => e.id === open.line.event?.id) : null;
  const told = shownEvent?.kind === 'foretold' ? shownEvent : null;
  const propose = ({ plan, act, days: n }: Propose) => setOpen({ what: 'plan', plan, act, days: n });

  return (
    <Page
      testID="log"
      printed={
        printing ? (
          <LogPrint
            onDrawn={printPage}
            {...{ desk, still, nowMs }}
            width={PAPER_WIDTH}
            shown={filtered}
            changes={accustomed?.changes ?? NO_CHANGES}
          >
            <LogLanes {...{ desk, lines, nowMs }} changes={accustomed?.changes ?? NO_CHANGES} paper />
          </LogPrint>
        ) : undefined
      }
      title="Log"
      under={zone.name}
      sentence={
        <Type kind="sentence" testID="log-sentence" style={{ maxWidth: 700 }}>
          {stillWords(still)}
        </Type>
      }
      side={
        <>
          {plans.length > 0 && (
            <Section title="Being eased in">
              {plans.map((p) => (
                <PlanRow key={p.id} plan={p} onPress={() => setOpen({ what: 'plan', plan: p })} />
              ))}
            </Section>
          )}
          {togetherWords(still) !== '' && (
            <Type kind="small" testID="log-together">
              {togetherWords(still)}
            </Type>
          )}
          <LogLanes {...{ desk, lines }} changes={accustomed?.changes ?? NO_CHANGES} nowMs={nowMs} />
          <Section title="Light">
            <OfSpot says="Before and after are shown at" spots={zone.spots} spot={spot} />
            <Type kind="small">
              µmol: the day’s brightest. ×: against what the {tenantsOf(zone.spots).one} was used to as that
              day began, replayed from all that is known now; an entry put in later changes those after it.
            </Type>
          </Section>
          <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
            <Button label="Plan a change" onPress={() => router.navigate('/ease')} testID="log-ease" />
            <Button
              label="Too much at once?"
              onPress={() => router.navigate('/rescue')}
              testID="log-rescue"
            />
            <Button
              label="Experiments"
              onPress={() => router.navigate('/experiments' as never)}
              testID="log-experiments"
            />
            <Button
              label="Pictures"
              onPress={() => router.navigate('/pictures' as never)}
              testID="log-pictures"
            />
            <Button
              label="Does it really run this?"
              onPress={() => router.navigate('/prove')}
              testID="log-prove"
            />
            <Button
              label="CSV"
              name="Keep the log as CSV"
              icon={Download}
              onPress={() => offer('log.csv', 'text/csv', (f) => f.logCsv(lines, spot?.name ?? 'no spot'))}
              testID="log-csv"
            />
            <Button
              label="Report"
              name="Print a report of what is shown"
              icon={Printer}
              onPress={() => setPrinting(true)}
              testID="log-report"
            />
            <EntriesFile desk={desk} />
          </View>
        </>
      }
    >
      <DraftLine desk={desk} />
      <QuickLog
        desk={desk}
        onPlan={propose}
        onMissed={running ? () => setOpen({ what: 'plan', plan: running, act: 'replan' }) : undefined}
        testID="log"
      />
      <Sentence
        parts={[
          'Shown: ',
          {
            id: 'lane',
            name: 'Shown',
            value: (lanesInUse.find((l) => l.id === shown)?.label ?? ALL).toLowerCase(),
            chosen: shown,
            options: [
              { value: 'all', label: ALL },
              ...lanesInUse.map((l) => ({ value: l.id, label: l.label })),
            ],
            onChoose: setShown,
          },
          '.',
        ]}
      />
      <LogSearch {...{ sought, zone }} onSought={setSought} />
      {filtered.length === 0 && (
        <Type>
          {lines.length === 0
            ? 'Here will stand what was typed into the lamps with the light before and after, steps of easing in, what corals showed, power cuts, carbon and wiped lenses.'
            : 'Nothing of this kind yet.'}
        </Type>
      )}
      <LogList lines={shownLines} timeZone={zone.timeZone} onOpen={openLine} />
      {filtered.length > shownLines.length && (
        <Button label={`Show all ${filtered.length}`} onPress={() => setAll(true)} testID="log-all" />
      )}
      {open?.what === 'sign' && <SignSheet onClose={close} onPlan={propose} />}
      {open?.what === 'entry' && (
        <EntrySheet
          key={open.event?.id ?? open.kind.kind}
          kind={open.kind}
          event={open.event}
          onClose={close}
          // the rest of a plan is planned from what the corals are used to after it
          onMissed={running ? () => setOpen({ what: 'plan', plan: running, act: 'replan' }) : undefined}
        />
      )}
      {open?.what === 'plan' && (
        <PlanSheet plan={open.plan} act={open.act} holdDays={open.days} onClose={close} />
      )}
      {open?.what === 'line' && (
        <Sheet title={shortDate(localDate(Date.parse(open.line.atUtc), zone.timeZone))} onClose={close}>
          <Type kind="sentence">{open.line.title}</Type>
          {open.line.details.map((d) => (
            <Type key={d}>{d}</Type>
          ))}
          <Type kind="small">{longDate(Date.parse(open.line.atUtc), zone.timeZone)}</Type>
          {open.line.event?.kind === 'sign' && <Triage event={open.line.event} />}
          {told && <Foretold event={told} />}
          {open.line.event ? (
            <>
              {kindOf(open.line.event).removing && (
                <Type kind="small">{kindOf(open.line.event).removing}</Type>
              )}
              <Button
                label="Remove from the log"
                wide
                onPress={() => {
                  close();
                  run(removeEvent(open.line.event!.id));
                }}
                testID="remove-event"
              />
            </>
          ) : open.line.lane === 'reading' ? (
            <Button label="To the readings" wide onPress={() => router.navigate('/readings')} />
          ) : (
            <Type kind="small">
              Written by the app from what was typed in; undo takes back what was done in this session.
            </Type>
          )}
        </Sheet>
      )}
    </Page>
  );

  function openLine(line: LogLine) {
    const e = line.event;
    if (e && kindOf(e).form) setOpen({ what: 'entry', kind: kindOf(e), event: e });
    else setOpen({ what: 'line', line });
  }
}
