import { useQuery } from '@tanstack/react-query';
import { router } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';

import { formatHours, formatTime } from '@/core/day/clock';
import { inHandOf, LIGHT_NAMES, readCard } from '@/core/case/card';
import { importText } from '@/core/record/caseFile';
import { problemLine, type Read } from '@/core/record/read';
import { measured, MEASURES } from '@/core/record/log/measures';
import { percent } from '@/core/shape/percent';
import { lengthFigure, lengthWords } from '@/core/shape/units';
import { mixSpectrum } from '@/core/spectrum/lamp';
import type { LampKind, Levels } from '@/core/spectrum/lampKind';
import { Strip } from '@/pieces/Strip';
import { importFile } from '@/state/importing';
import { setInHand } from '@/state/commands/hands';
import { type Desk, useDesk } from '@/state/desk';
import { giveDay } from '@/state/givenDay';
import { newId } from '@/state/id';
import { importLamp, readLamp } from '@/state/lampFiles';
import { importPlate, readPlate } from '@/state/plates';
import { readDay } from '@/state/readDay';
import { type Given as Found, GIVEN, readCode } from '@/state/share';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { Page, usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

const hashNow = (): string => globalThis.location?.hash ?? '';

/** What somebody gave along in a link: what it is and whom it was for, drawn, before anything of it is taken. */
export function Given() {
  const desk = useDesk();
  const [code, setCode] = useState(hashNow);
  const [typed, setTyped] = useState('');
  useEffect(() => {
    const changed = () => setCode(hashNow());
    globalThis.addEventListener?.('hashchange', changed);
    return () => globalThis.removeEventListener?.('hashchange', changed);
  }, []);
  const read = useQuery({
    queryKey: ['given', code],
    queryFn: () => readCode(code),
    enabled: code !== '',
    networkMode: 'always',
    staleTime: Infinity,
  });
  const found = code !== '' && read.data?.ok ? read.data.value : null;
  const wrong = code !== '' && read.data && !read.data.ok ? read.data.problem : null;
  return (
    <Page
      testID="given"
      title="Given"
      under={found ? `a ${GIVEN[found.letter]}, in a link` : 'what came in a link'}
      sentence={
        <Type kind="sentence" testID="given-sentence" style={{ maxWidth: 700 }}>
          {wrong
            ? `▲ It cannot be opened: ${problemLine(wrong)}. ${wrong.remedy} Nothing was changed.`
            : found
              ? 'Nothing of it is taken before you say so.'
              : 'A link that somebody gave along opens here. Paste one below, or open it in this browser.'}
        </Type>
      }
    >
      {found && <Content key={code} found={found} desk={desk} />}
      {!found && (
        <>
          <TextField label="The link" value={typed} onChange={setTyped} testID="given-link" />
          <Button
            label="Look at it"
            kind="filled"
            wide
            disabled={typed.trim() === ''}
            onPress={() => setCode(typed.trim())}
            testID="given-open"
          />
        </>
      )}
    </Page>
  );
}

function Content({ found, desk }: { found: Found; desk: Desk }) {
  if (found.letter === 'p') return <PlateGiven text={found.text} desk={desk} />;
  if (found.letter === 'l') return <LampGiven text={found.text} desk={desk} />;
  if (found.letter === 'd') return <DayGiven text={found.text} />;
  if (found.letter === 't') return <TankGiven text={found.text} />;
  return <CardGiven text={found.text} desk={desk} />;
}

/** Why the text behind a sound link is not what it says. */
function Unread({ read }: { read: Read<unknown> }) {
  return read.ok ? null : (
    <Type
      role="alert"
      testID="given-problem"
    >{`▲ ${problemLine(read.problem)}. ${read.problem.remedy} Nothing was changed.`}</Type>
  );
}

/** A mix as its spectrum and its levels. */
function Mixed({ kind, mix, name }: { kind: LampKind; mix: Levels; name: string }) {
  const page = usePageSize();
  return (
    <View style={{ gap: space.s }}>
      <Strip
        spectrum={mixSpectrum(kind, mix)}
        width={Math.min(page.main, 480)}
        name={`Spectrum of ${name} at the lamp`}
      />
      <Type>
        {kind.controls
          .filter((c) => (mix[c.id] ?? 0) > 0)
          .map((c) => `${c.name} ${percent(mix[c.id]!)}`)
          .join(', ') || 'dark'}
      </Type>
    </View>
  );
}

function PlateGiven({ text, desk: { doc } }: { text: string; desk: Desk }) {
  const [told, setTold] = useState('');
  const read = readPlate(text);
  if (!read.ok) return <Unread read={read} />;
  const { plate, lampKind } = read.value;
  return (
    <Section title={plate.name}>
      <Type testID="given-for">{`A mix for ${lampKind.name}.${plate.notes === '' ? '' : ` ${plate.notes}`}`}</Type>
      <Mixed kind={lampKind} mix={plate.mix} name={plate.name} />
      <Button
        label="Take it in"
        kind="filled"
        wide
        onPress={() => {
          const taken = importPlate(doc, text);
          if (!taken.ok) return setTold(`${problemLine(taken.problem)}. Nothing was changed.`);
          router.navigate('/plates');
        }}
        testID="given-take"
      />
      <Type kind="small">
        Where that lamp hangs here it is a plate like any other; else Plates takes it over to yours, at equal
        light.
      </Type>
      {told !== '' && <Type role="alert">{`▲ ${told}`}</Type>}
    </Section>
  );
}

function LampGiven({ text, desk: { doc } }: { text: string; desk: Desk }) {
  const [told, setTold] = useState('');
  const read = readLamp(text);
  if (!read.ok) return <Unread read={read} />;
  const kind = read.value;
  const full = Object.fromEntries(kind.controls.map((c) => [c.id, 1]));
  return (
    <Section title={kind.name}>
      <Type testID="given-for">{`A lamp of ${kind.channels.length} channels: ${kind.channels.map((c) => c.name).join(', ')}.`}</Type>
      <Mixed kind={kind} mix={full} name={`${kind.name}, all full`} />
      <Button
        label="Take it into my lamps"
        kind="filled"
        wide
        onPress={() => {
          const taken = importLamp(doc, text);
          if (!taken.ok) return setTold(`${problemLine(taken.problem)}. Nothing was changed.`);
          router.navigate('/lamps');
        }}
        testID="given-take"
      />
      {told !== '' && <Type role="alert">{`▲ ${told}`}</Type>}
    </Section>
  );
}

function DayGiven({ text }: { text: string }) {
  const read = readDay(text);
  if (!read.ok) return <Unread read={read} />;
  const day = read.value;
  return (
    <Section title={`The day ${day.name}`}>
      <Type testID="given-for">
        {`For ${day.lampKind.name}, ${day.lamps.length === 1 ? 'one lamp' : `${day.lamps.length} lamps`}, cap ${percent(day.capShare)}${day.light ? `, as ${day.light.spot} had it` : ''}.`}
      </Type>
      <View>
        {day.threads.map((t) => (
          <Row key={t.minute} style={{ minHeight: 40 }}>
            <Type style={{ flex: 1 }}>{`${formatTime(t.minute)}  ${t.mixName}`}</Type>
            <Type kind="label">{percent(t.strengthShare)}</Type>
          </Row>
        ))}
      </View>
      <Button
        label="Carry it to my lamps"
        kind="filled"
        wide
        onPress={() => {
          giveDay(day);
          router.navigate('/carry');
        }}
        testID="given-take"
      />
    </Section>
  );
}

/** A whole water: it becomes a case of its own beside those that are here. */
function TankGiven({ text }: { text: string }) {
  const [told, setTold] = useState('');
  const [busy, setBusy] = useState(false);
  const read = importText(text);
  if (!read.ok) return <Unread read={read} />;
  const { zones, lampKinds, plates } = read.value.case;
  const zone = zones[0]!;
  const { lengthCm, widthCm, depthCm } = zone.tank;
  const corals = zone.spots.filter((s) => s.need !== null).map((s) => s.name);
  return (
    <Section title={zone.name}>
      <Type testID="given-for">{`${lengthFigure(lengthCm)} × ${lengthFigure(widthCm)} × ${lengthWords(depthCm)} of water${corals.length === 0 ? '' : ` with ${corals.join(', ')}`}.${
        zones.length === 1
          ? ''
          : ` It comes with ${zones
              .slice(1)
              .map((z) => z.name)
              .join(', ')}.`
      }`}</Type>
      {zone.groups.map((g) => {
        const kind = lampKinds.find((k) => k.id === g.lampKindId)!;
        const strongest = g.threads.reduce<(typeof g.threads)[number] | null>(
          (a, t) => (a && a.strengthShare >= t.strengthShare ? a : t),
          null,
        );
        const { mix = null } = strongest ?? {};
        const levels = mix && ('plateId' in mix ? plates.find((p) => p.id === mix.plateId)!.mix : mix.own);
        return (
          <View key={g.id} style={{ gap: space.s }}>
            <Type kind="label">{`${g.lamps.length} × ${kind.name}, cap ${percent(g.capShare)}${strongest ? `, strongest at ${formatTime(strongest.minute)}` : ''}`}</Type>
            {levels && <Mixed kind={kind} mix={levels} name={`${g.name} at its strongest`} />}
          </View>
        );
      })}
      <Button
        label="Open it as a case of its own"
        kind="filled"
        wide
        disabled={busy}
        onPress={async () => {
          setBusy(true);
          const done = await importFile(text, { beside: true });
          setBusy(false);
          if (done.ok) router.navigate('/');
          else setTold(done.say);
        }}
        testID="given-take"
      />
      <Type kind="small">What lies open here stays as it is: Case goes back to it.</Type>
      {told !== '' && <Type role="alert">{`▲ ${told}`}</Type>}
    </Section>
  );
}

function CardGiven({ text, desk: { zone } }: { text: string; desk: Desk }) {
  const card = readCard(text);
  const lines = [
    card.peakUmol === null ? '' : `${card.peakUmol} µmol at its brightest`,
    card.hours === null ? '' : `lit for ${formatHours(card.hours)}`,
    card.light === null ? '' : `${LIGHT_NAMES[card.light]} light`,
    card.origin ?? '',
    ...MEASURES.flatMap((m) =>
      card.water[m.id] === undefined ? [] : [`${m.name} ${measured(m, card.water[m.id]!)}`],
    ),
  ].filter(Boolean);
  return (
    <Section title={card.name ?? 'A coral'}>
      <Type testID="given-for">
        {lines.length === 0 ? 'The card says nothing of its light.' : `${lines.join(', ')}.`}
      </Type>
      <Button
        label="Look for a place for it"
        kind="filled"
        wide
        onPress={() => {
          const coral = { id: newId(), name: 'A coral', need: 'smallPolyp' as const, formId: null };
          if (run(setInHand(zone.id, { ...coral, ...inHandOf(card) })))
            router.navigate({ pathname: '/place', params: { hand: coral.id } } as never);
        }}
        testID="given-take"
      />
    </Section>
  );
}
