import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { ScrollView, View } from 'react-native';
import Copy from 'lucide-react-native/icons/copy';
import Download from 'lucide-react-native/icons/download';
import Printer from 'lucide-react-native/icons/printer';

import { differences } from '@/core/case/difference';
import { afterTyping, runningAt } from '@/core/case/lit';
import { easeByCap, judge, worstOf } from '@/core/case/safety';
import { lampTable, roundingEffect, tableCell } from '@/core/case/table';
import { CEILINGS } from '@/core/easing/accustomed';
import { sheetCsv, sheetPlainText } from '@/core/formats/sheetText';
import { useAccustomed, useCalibration, useLight } from '@/state/light';
import { useDesk } from '@/state/desk';
import { addDays, daysAgo, localDate, longDate, shortDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { copyText, download, printPage } from '@/ui/files';
import { Page, usePageSize } from '@/ui/Page';
import { printHide } from '@/ui/print';
import { Note, Row, Section } from '@/ui/Parts';
import { font, space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { SheetCautions } from '../shared/Cautions';
import { GroupChoice } from '../shared/GroupChoice';
import { NoLamps } from '../shared/NoLamps';
import { basisAt, inWords, mol, percent, plural, times, umol } from '../shared/words';
import { TypedIn } from './TypedIn';

const NAME_WIDTH = 84;

const useStyles = themed((p) => ({
  cell: { textAlign: 'right', paddingVertical: 7, fontFamily: font.medium, fontSize: 15 },
  head: { borderBottomWidth: 1.5, borderColor: p.ink },
  line: { flexDirection: 'row', borderBottomWidth: 1, borderColor: p.line },
  name: { width: NAME_WIDTH, paddingVertical: 7 },
  keys: { flexDirection: 'row', flexWrap: 'wrap', gap: space.s },
}));

/** The day as it is typed into the lamp, and whether that is safe. */
export function LampSheet() {
  const desk = useDesk();
  return desk.group ? <Filled /> : <NoLamps title="The sheet" />;
}

function Filled() {
  const styles = useStyles();
  const desk = useDesk();
  const { doc, zone, bundle } = desk;
  const group = desk.group!;
  const nowMs = useNowMs();
  const nowUtc = utcIso(nowMs);
  const calibration = useCalibration(bundle, zone);
  const accustomed = useAccustomed(zone, bundle.history, calibration, nowMs);
  const groups = useMemo(
    () => afterTyping(doc, bundle.history, zone, group.id, nowUtc),
    [doc, bundle.history, zone, group.id, nowUtc],
  );
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;
  const { light, error } = useLight(groups, zone, calibration);
  const running = runningAt(bundle.history, zone, nowUtc).find((e) => e.groupId === group.id);
  const changes = differences(doc, group, running);
  const table = lampTable(lit);
  const page = usePageSize();
  const cell = {
    width: Math.min(72, Math.max(45, (page.main - NAME_WIDTH) / Math.max(1, table.times.length))),
  };
  const [said, setSaid] = useState<string | null>(null);

  const safety = light && accustomed ? judge(light, groups, accustomed.perSpot) : null;
  const worst = safety ? worstOf(safety) : undefined;
  const plan = useMemo(
    () =>
      light && accustomed && worst && worst.ratio > CEILINGS.usual
        ? easeByCap(light, groups, group.id, accustomed.perSpot)
        : null,
    [light, accustomed, worst, groups, group.id],
  );
  const today = localDate(nowMs, zone.timeZone);
  const steps =
    plan && 'steps' in plan
      ? plan.steps.map((s) => ({ date: addDays(today, s.day), capShare: s.capShare }))
      : [];
  const title = `${lit.lampKind.name}, ${zone.name}`;
  const csv = () =>
    download(`${group.name.toLowerCase().replace(/\W+/g, '-')}-sheet.csv`, sheetCsv(table), 'text/csv');
  const copy = async () =>
    setSaid(
      (await copyText(sheetPlainText(title, table)))
        ? 'Copied.'
        : 'The browser did not allow copying: use CSV.',
    );
  const rounding = light && desk.spotIndex >= 0 ? roundingEffect(lit, light, index, desk.spotIndex) : null;
  const step = lit.lampKind.controller.pointStepShare;

  return (
    <Page
      testID="sheet"
      title="The sheet"
      under={`${title} · ${lit.lamps.map((l) => l.name).join(' and ')} · ${longDate(nowMs, zone.timeZone)}`}
      sentence={
        <Type kind="sentence" testID="sheet-state">
          {changes.length === 0 && running
            ? `The lamp runs this as typed in ${daysAgo(running.atUtc, nowMs, zone.timeZone)}.`
            : running
              ? `Not in the lamp yet: ${plural(changes.length, 'change')}.`
              : 'Nothing is known to be running yet.'}
        </Type>
      }
      side={
        <>
          <Section title="Is it safe?">
            {error ? (
              <Note>{`The light could not be computed: ${error}. Reload the page; nothing is lost.`}</Note>
            ) : !safety ? (
              <Type quiet>
                {zone.spots.length === 0
                  ? 'Add a spot under Case to see what a coral there would get.'
                  : 'Computing the light …'}
              </Type>
            ) : (
              <>
                <Type kind="strong" testID="safety">
                  {worst === undefined
                    ? 'No spot to judge.'
                    : worst.ratio <= CEILINGS.usual
                      ? `Safe to type in at once: at most ${times(worst.ratio)} what any coral is used to.`
                      : `Ease this in: ${zone.spots[worst.spot]!.name} would get ${times(worst.ratio)} what it is used to, by ${worst.by}.`}
                </Type>
                {safety.map((s) => (
                  <Row key={zone.spots[s.spot]!.id}>
                    <View style={{ flex: 1 }}>
                      <Type kind="label">{zone.spots[s.spot]!.name}</Type>
                      <Type kind="small">
                        {`used to ${mol(s.accustomed.dli)} mol a day, peak ${umol(s.accustomed.peak)} µmol → ${mol(s.light.dli)}, ${umol(s.light.peak)}`}
                      </Type>
                    </View>
                    <Type kind="strong" testID={`ratio-${zone.spots[s.spot]!.name}`}>
                      {times(s.ratio)}
                    </Type>
                  </Row>
                ))}
                <Type kind="small">
                  {accustomed!.known
                    ? 'Used to: from what ran here, with 10 days to grow accustomed (rule of thumb).'
                    : 'Nothing is known to have run: each coral counts as used to the lower edge of its band for 8 hours (rule of thumb).'}
                  {` Light: ${basisAt(calibration, light, groups, desk.spotIndex)}.`}
                </Type>
              </>
            )}
          </Section>
          {plan && 'refused' in plan && <Note>{`No cap steps: ${plan.refused}.`}</Note>}
          {steps.length > 0 && (
            <Section title="Cap steps">
              <Type>{`${steps.length === 1 ? 'One step' : `${steps.length} steps`} that never give a coral more than ${CEILINGS.usual} × what it is used to then. Type only the cap each time.`}</Type>
              <View testID="cap-steps">
                {steps.map((s) => (
                  <Row key={s.date} style={{ minHeight: 36 }}>
                    <Type style={{ flex: 1 }}>{shortDate(s.date)}</Type>
                    <Type kind="strong">{percent(s.capShare)}</Type>
                  </Row>
                ))}
              </View>
            </Section>
          )}
          <Section title="Cautions">
            <SheetCautions />
          </Section>
        </>
      }
    >
      <GroupChoice />
      {changes.length > 0 && running && (
        <View testID="changes">
          {changes.map((c) => (
            <Type key={c} kind="small">{`· ${c}`}</Type>
          ))}
        </View>
      )}
      <View style={{ flexDirection: 'row', alignItems: 'baseline', gap: space.m }}>
        <Type kind="heading" testID="sheet-cap">{`Cap ${table.capPercent} %`}</Type>
        <Type kind="small" style={{ flex: 1 }}>
          {lit.day.capMeans === 'rescales'
            ? 'this lamp’s cap rescales the day: its largest channel level becomes the cap'
            : 'the lamp’s overall limit; it multiplies every number below'}
        </Type>
      </View>
      {table.times.length === 0 ? (
        <Type>This day has no threads yet. Add one on Day.</Type>
      ) : (
        <ScrollView horizontal contentContainerStyle={{ flexGrow: 1 }}>
          <View
            role="table"
            aria-label={`Percents to type in, ${table.times.length} times and ${table.controls.length} controls`}
          >
            <View style={[styles.line, styles.head]} role="row">
              <Type kind="small" style={styles.name} role="columnheader">
                % of full
              </Type>
              {table.times.map((t) => (
                <Type
                  key={t}
                  kind="label"
                  style={[styles.cell, cell, { fontFamily: font.bold }]}
                  role="columnheader"
                >
                  {t}
                </Type>
              ))}
            </View>
            {table.controls.map((c) => (
              <View key={c.name} style={styles.line} role="row">
                <Type kind="label" style={styles.name} role="rowheader">
                  {c.name}
                </Type>
                {c.percents.map((p, i) => (
                  <Type key={table.times[i]} style={[styles.cell, cell]} role="cell">
                    {tableCell(c.kind, p)}
                  </Type>
                ))}
              </View>
            ))}
          </View>
        </ScrollView>
      )}
      <Type kind="small">
        {step > 0
          ? `${step === 0.01 ? 'Whole percents' : `Steps of ${step * 100} %`} before the cap; every µmol in this app already counts with the rounding.`
          : 'No rounding.'}
        {rounding && step > 0 && rounding.time !== ''
          ? ` It moves ${desk.spot!.name} by at most ${Math.abs(rounding.umol).toFixed(1)} µmol (${rounding.time}).`
          : ''}
        {` Between the times the lamp ${lit.day.interpolation === 'ramp' ? 'runs evenly from one to the next' : 'holds the last values'}.`}
      </Type>
      <View style={styles.keys} {...printHide}>
        <Button label="Print" icon={Printer} onPress={printPage} />
        <Button label="CSV" icon={Download} onPress={csv} />
        <Button label="Copy" icon={Copy} onPress={copy} />
        <Button label="Back to Day" kind="plain" onPress={() => router.navigate('/day')} />
      </View>
      {said && (
        <Type kind="small" role="status">
          {said}
        </Type>
      )}
      {table.times.length > 0 && (changes.length > 0 || !running) && (
        <TypedIn key={group.id} group={group} steps={steps} first={!running} />
      )}
      {running && (
        <Type kind="small">{`Running since ${longDate(Date.parse(running.atUtc), zone.timeZone)}, as typed in, cap ${percent(running.capShare)}.`}</Type>
      )}
      {zone.groups.length > 1 && (
        <Type kind="small">{`The ${inWords(zone.groups.length - 1)} other ${zone.groups.length === 2 ? 'group counts' : 'groups count'} as running now.`}</Type>
      )}
    </Page>
  );
}
