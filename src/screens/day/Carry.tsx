import type { HungLamp } from '@/core/record/zone';
import { inWords } from '@/core/shape/counts';
import { lengthRange, lengthWords } from '@/core/shape/units';
import { problemLine } from '@/core/record/read';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import type { CarriedDay } from '@/core/case/carryDay';
import { dayAt, levelsOfGroups, lightOfGroup, spectrumUnder, type ZoneLight } from '@/core/case/light';
import { lightThere } from '@/core/case/lightThere';
import { type LitGroup, litDraft, resolveThread } from '@/core/case/lit';
import { bareCalibration } from '@/core/case/calibration';
import { formatTime } from '@/core/day/clock';
import { lampDay } from '@/core/day/thread';
import { Strip } from '@/pieces/Strip';
import { takeDay } from '@/state/days';
import { useGivenDay } from '@/state/givenDay';
import { type DayFile, readDay } from '@/state/readDay';
import { type Desk, useDesk } from '@/state/desk';
import { useLight } from '@/state/light';
import { run } from '@/state/session';
import { useCarry } from '@/state/solvers';
import { Button } from '@/ui/Button';
import { FieldRow } from '@/ui/Field';
import { pickText } from '@/ui/files';
import { Sentence } from '@/ui/Sentence';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { NumberField } from '../shared/fields';
import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { OfSpot } from '../shared/OfSpot';
import { useDraftLight } from '../shared/useDraftLight';
import { mol, umol } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { stepWords, withThreads } from './changed';

/** A day or a mix made for other hardware, brought to one's own lamp, depth and height. */
export function CarryPage() {
  const desk = useDesk();
  return desk.group ? <Filled desk={desk} /> : <NoLamps title="Carry a day here" />;
}

/** Foreign lamps over this water: as many as they are, where mine hang, else evenly along it. */
const hungHere = (theirs: readonly HungLamp[], mine: readonly HungLamp[], lengthCm: number): HungLamp[] =>
  theirs.length === mine.length
    ? [...mine]
    : theirs.map((l, i) => ({ ...mine[0]!, id: l.id, xCm: ((i + 0.5) * lengthCm) / theirs.length }));

interface Source {
  id: string;
  name: string;
  about: string;
  file: DayFile;
}

const FOREIGN = 'foreign';

function givenSource(): Source[] {
  const { day } = useGivenDay.getState();
  return day
    ? [{ id: 'given', name: `The day ${day.name}`, about: `${day.lampKind.name}, from a link`, file: day }]
    : [];
}

function Filled({ desk }: { desk: Desk }) {
  const { doc, zone, spot, spotIndex } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const page = usePageSize();
  const { groups, light, error, judge } = useDraftLight(desk);
  // a day that came in a link is the first that is looked at
  const [files, setFiles] = useState<Source[]>(givenSource);
  const [chosen, setChosen] = useState<string | null>(files[0]?.id ?? null);
  const [problem, setProblem] = useState<string | null>(null);
  const [place, setPlace] = useState<{ heightCm: number; depthCm: number } | null>(null);
  const { carry, found, progress, error: failed, clear } = useCarry([kind, group, spot]);
  const ready = light !== null && spotIndex >= 0;
  const index = groups.findIndex((g) => g.groupId === group.id);

  const sources = useMemo((): Source[] => {
    const depthCm = spot?.depthCm ?? 0;
    const others = doc.zones
      .flatMap((z) => z.groups)
      .filter((g) => g.id !== group.id && g.threads.length > 0)
      .map((g): Source => {
        const lit = litDraft(doc, g);
        return {
          id: `group/${g.id}`,
          name: `The day of ${g.name}`,
          about: lit.lampKind.name,
          file: {
            name: g.name,
            lampKind: lit.lampKind,
            lamps: g.lamps,
            capShare: g.capShare,
            threads: lit.threads,
            depthCm,
          },
        };
      });
    const plates = doc.plates
      .filter((p) => p.lampKindId !== kind.id)
      .map((p): Source => {
        const foreign = doc.lampKinds.find((k) => k.id === p.lampKindId)!;
        return {
          id: `plate/${p.id}`,
          name: `The plate ${p.name}`,
          about: `${foreign.name}; over the hours of the present day`,
          file: {
            name: p.name,
            lampKind: foreign,
            lamps: group.lamps,
            capShare: group.capShare,
            threads: group.threads.map((t) => ({ ...resolveThread(doc, t), mix: p.mix, mixName: p.name })),
            depthCm,
          },
        };
      });
    return [...files, ...others, ...plates];
  }, [doc, files, group, kind.id, spot?.depthCm]);
  const source = sources.find((s) => s.id === chosen) ?? null;
  const heightCm = place?.heightCm ?? source?.file.lamps[0]?.heightCm ?? 20;
  const depthCm = place?.depthCm ?? source?.file.depthCm ?? spot?.depthCm ?? 0;

  // the foreign lamps as they would hang here: where mine hang, at their own height
  const foreign = useMemo((): LitGroup[] => {
    if (!source) return [];
    const { file } = source;
    return [
      {
        groupId: FOREIGN,
        name: file.name,
        lampKind: file.lampKind,
        // lamps that hang over this water stay where they are
        lamps: (zone.groups.some((g) => source.id === `group/${g.id}`)
          ? file.lamps
          : hungHere(file.lamps, group.lamps, zone.tank.lengthCm)
        ).map((l) => ({ ...l, heightCm })),
        threads: file.threads,
        day: lampDay(file.lampKind, file.threads, { capShare: file.capShare, easingShare: 1 }),
      },
    ];
  }, [source, group.lamps, zone.groups, zone.tank.lengthCm, heightCm]);
  const there = useMemo(
    () => ({ ...zone, spots: spot ? [{ ...spot, depthCm: Math.min(depthCm, zone.tank.depthCm) }] : [] }),
    [zone, spot, depthCm],
  );
  const bare = useMemo(() => bareCalibration([], zone), [zone]);
  // the light it had where it was made, if its file tells; else that of its lamps over this water
  const [asHere, setAsHere] = useState(false);
  const its = source?.file.light;
  const had = useMemo(
    () => (its && !asHere ? lightThere(its.channels.map((c) => Float64Array.from(c))) : null),
    [its, asHere],
  );
  const { light: over, stale: late } = useLight(foreign, there, bare);
  const [foreignLight, stale] = had ? [had, false] : [over, late];
  const match = () => {
    if (!ready || !foreignLight || stale || foreign.length === 0) return;
    carry(
      { lit: foreign[0]!, spectra: foreignLight.spectra[0]![0]! },
      { kind, spectra: light.spectra[index]![spotIndex]! },
    );
  };
  const choose = (id: string) => {
    clear();
    setPlace(null);
    setChosen(id);
  };
  const open = async () => {
    setProblem(null);
    const picked = await pickText(['application/json', '.json'], 2_000_000);
    if (!picked) return;
    const not = (why: string) => setProblem(`${picked.name} was not taken: ${why}`);
    if ('problem' in picked) return not(picked.problem);
    const read = readDay(picked.text);
    if (!read.ok) return not(`${problemLine(read.problem)}. ${read.problem.remedy}`);
    const file = read.value;
    const id = `file/${picked.name}`;
    setFiles((all) => [
      { id, name: `The day ${file.name}`, about: `${file.lampKind.name}, from ${picked.name}`, file },
      ...all.filter((f) => f.id !== id),
    ]);
    choose(id);
  };
  const stand = (change: Partial<{ heightCm: number; depthCm: number }>): null => {
    clear();
    setPlace({ heightCm, depthCm, ...change });
    return null;
  };
  return (
    <Page
      testID="carry"
      title="Carry a day here"
      under={`onto ${group.name} · ${kind.name}`}
      sentence={
        <Type kind="sentence">
          {spot
            ? `Matched thread by thread in the light that reaches ${spot.name}, then one cap for the same PAR.`
            : 'Matched at a coral: add a spot under Case first.'}
        </Type>
      }
      side={
        <>
          <Section title="What is carried">
            <View role="radiogroup" aria-label="Day or plate">
              {sources.map((s) => (
                <Row key={s.id} onPress={() => choose(s.id)} name={s.name}>
                  <View style={{ flex: 1 }}>
                    <Type kind="label">{`${s.id === chosen ? '● ' : '○ '}${s.name}`}</Type>
                    <Type kind="small">{s.about}</Type>
                  </View>
                </Row>
              ))}
            </View>
            {sources.length === 0 && (
              <Type kind="small">
                Nothing of other hardware is in this case yet: open a day file, or a plate of another lamp on
                Plates.
              </Type>
            )}
            <Button label="Open a day file" onPress={() => void open()} testID="open-day" />
            {problem && (
              <Type kind="label" role="alert" testID="day-problem">
                {`▲ ${problem}`}
              </Type>
            )}
          </Section>
          <OfSpot says="Matched at" spots={zone.spots} spot={spot} />
        </>
      }
    >
      <GroupChoice />
      {!ready ? (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={200} />
      ) : !source ? (
        <Type>Choose what is to be carried. Nothing is changed until you take it.</Type>
      ) : (
        <>
          {its && (
            <Sentence
              testID="carry-as"
              parts={[
                'Matched to ',
                {
                  id: 'carry-light',
                  name: 'Which light',
                  value: asHere ? 'the light its lamps would give here' : 'the light it had there',
                  chosen: asHere ? 'here' : 'there',
                  options: [
                    { value: 'there', label: 'the light it had there' },
                    { value: 'here', label: 'the light its lamps would give here' },
                  ],
                  onChoose: (v) => {
                    clear();
                    setAsHere(v === 'here');
                  },
                },
                asHere
                  ? '.'
                  : `: ${mol(its.dli)} mol a day at ${its.spot}, ${lengthWords(source.file.depthCm)} deep.`,
              ]}
            />
          )}
          {!had && (
            <>
              <FieldRow>
                <NumberField
                  label="It hung over the water at"
                  value={heightCm}
                  unit="cm"
                  low={1}
                  high={300}
                  wrong={`Height: give ${lengthRange(1, 300)}.`}
                  testID="source-height"
                  take={(v) => stand({ heightCm: v })}
                />
                <NumberField
                  label="its coral sat at"
                  value={depthCm}
                  unit="cm deep"
                  low={0}
                  high={300}
                  wrong={`Depth: give ${lengthRange(0, 300)}.`}
                  testID="source-depth"
                  take={(v) => stand({ depthCm: v })}
                />
              </FieldRow>
              <Type kind="small">{`As if its ${source.file.lamps.length === 1 ? 'lamp' : `${inWords(source.file.lamps.length)} lamps`} hung over this water${source.file.lamps.length === group.lamps.length ? ` where ${group.name} hang` : ', evenly along it'}.`}</Type>
            </>
          )}
          <Button
            label={progress === null ? 'Match it' : 'Matching …'}
            kind="filled"
            disabled={!foreignLight || stale || progress !== null}
            onPress={match}
            testID="match-day"
          />
          {failed && <Note>{`It could not be matched: ${failed}. Nothing was changed.`}</Note>}
          {found && foreignLight && (
            <Result
              desk={desk}
              found={found}
              groups={groups}
              light={light}
              foreign={foreign}
              foreignLight={foreignLight}
              width={page.main}
              step={stepWords(judge(withThreads(groups, group.id, found.threads, found.capShare)), zone)}
              onTake={() => {
                if (run(takeDay(doc, group, `carried from ${source.name}`, found.threads, found.capShare)))
                  router.navigate({
                    pathname: '/day',
                    params: { took: `The day carried from ${source.name}` },
                  });
              }}
            />
          )}
        </>
      )}
    </Page>
  );
}

function Result({
  desk,
  found,
  groups,
  light,
  foreign,
  foreignLight,
  width,
  step,
  onTake,
}: {
  desk: Desk;
  found: CarriedDay;
  groups: LitGroup[];
  light: ZoneLight;
  foreign: LitGroup[];
  foreignLight: ZoneLight;
  width: number;
  step: string;
  onTake: () => void;
}) {
  const { spot, spotIndex } = desk;
  const group = desk.group!;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const after = withThreads(groups, group.id, found.threads, found.capShare);
  const alone = lightOfGroup(light, index);
  const mine = [after[index]!];
  const [was, is] = [dayAt(foreignLight, foreign, 0), dayAt(alone, mine, spotIndex)];
  const brightest = was.peakMinute;
  return (
    <View style={{ gap: space.m }} testID="carried">
      <Type kind="strong" testID="carried-said">
        {`${percent(found.match)} alike in colour; cap ${Math.round(found.capShare * 1000) / 10} %; ${mol(was.dli)} mol a day there, ${mol(is.dli)} mol here at ${spot!.name} from ${group.name}.`}
      </Type>
      {found.reachShare < 0.985 && (
        <Note>{`This lamp reaches ${percent(found.reachShare)} of that light at full: hang it lower, add a lamp, or accept a weaker day of the same shape.`}</Note>
      )}
      {found.lost.map((l) => (
        <Note key={l}>{`${l.charAt(0).toUpperCase()}${l.slice(1)}.`}</Note>
      ))}
      <Type kind="small">{`At ${formatTime(brightest)}, its light there and yours here:`}</Type>
      <Strip
        spectrum={spectrumUnder(foreignLight, levelsOfGroups(foreign, brightest), 0)}
        width={width}
        height={22}
        name="The light that is carried"
      />
      <Strip
        spectrum={spectrumUnder(alone, levelsOfGroups(mine, brightest), spotIndex)}
        width={width}
        height={22}
        name="The light of your lamp"
      />
      <View role="table" aria-label="Threads of the carried day">
        {found.threads.map((t) => (
          <Row key={t.minute} style={{ minHeight: 40 }}>
            <Type kind="strong" style={{ width: 56 }}>
              {formatTime(t.minute)}
            </Type>
            <Type kind="small" style={{ flex: 1 }}>
              {t.wantedUmol < 0.05 ? 'dark' : `${umol(t.wantedUmol)} → ${umol(t.givenUmol)} µmol`}
            </Type>
            <Type kind="label">{t.wantedUmol < 0.05 ? '' : `${percent(t.match)} alike`}</Type>
          </Row>
        ))}
      </View>
      <Type kind="small" testID="carried-step">
        {step}
      </Type>
      <Type kind="small">
        Whole percents are set when it is taken; the lamp maker’s manual wins over any number here.
      </Type>
      <Button label="Take this day and cap" kind="filled" onPress={onTake} testID="take-carried" />
    </View>
  );
}
