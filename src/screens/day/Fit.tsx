import { plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import type { ZoneLight } from '@/core/case/light';
import type { CaseBundle } from '@/core/record/documents';
import { USUAL_HOME } from '@/core/record/zone';
import { baseOf } from '@/core/case/baseOf';
import { behind, misfits } from '@/core/controller/misfits';
import type { FitAsk } from '@/core/controller/answers';
import { canBeWired, dialsOf, onCircuits, type Wiring, wired } from '@/core/controller/circuits';
import { type ByHand, ownWeights } from '@/core/controller/fitTerms';
import { fitWords, weighedWords } from '@/core/controller/fitWords';
import type { ChannelWorth } from '@/core/controller/fit';
import { CONTROLLERS, foreignTo, profileWords } from '@/core/controller/profiles';
import type { ResolvedThread } from '@/core/day/thread';
import type { LampKind } from '@/core/spectrum/lampKind';
import { BANDS, bandPhotons } from '@/core/spectrum/bands';
import { setLampKind } from '@/state/commands/lamps';
import { takeDay } from '@/state/days';
import { type Desk, useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { useDoable, useFit } from '@/state/solvers';
import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { GroupChoice } from '../shared/GroupChoice';
import { LightPending } from '../shared/LightPending';
import { NoLamps } from '../shared/NoLamps';
import { OfSpot } from '../shared/OfSpot';
import { useDraftLight } from '../shared/useDraftLight';
import { percent } from '@/core/shape/percent';
import { ControllerSheet } from './ControllerSheet';
import { stepWords } from './changed';
import { Answer, DoableDay } from './FitAnswer';
import { Weighed, Wired } from './FitAsked';

/** What a controller makes of a day, and the day it can do well. */
export function FitPage() {
  const desk = useDesk();
  return desk.group ? <Filled desk={desk} /> : <NoLamps title="Fit to a controller" />;
}

const worthOf = (light: ZoneLight, index: number, spot: number): ChannelWorth => ({
  par: light.par[index]![spot]!,
  bands: light.spectra[index]![spot]!.map((s) => {
    const bands = bandPhotons(s);
    return BANDS.map((b) => bands[b.id]);
  }),
});

function Filled({ desk }: { desk: Desk }) {
  const { doc, zone, spot, spotIndex } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const { groups, light, error, judge } = useDraftLight(desk);
  const [chosen, setChosen] = useState<string>('own');
  const [editing, setEditing] = useState(false);
  const [wiring, setWiring] = useState<Wiring>({});
  const [byHand, setByHand] = useState<ByHand>({});
  const about = [kind, group, spot];
  const doable = useDoable(about);
  const { fit, found, progress, error: failed, cancel, clear } = useFit(about);
  const ready = light !== null && spotIndex >= 0;
  const index = groups.findIndex((g) => g.groupId === group.id);
  const lit = groups[index]!;
  const entryOf = CONTROLLERS.find((c) => c.id === chosen);
  const foreign = entryOf ? foreignTo(entryOf, kind) : null;
  const profile = chosen === 'own' ? kind.controller : entryOf!.profile;
  const wrong = misfits(behind(kind, profile), lit.threads);
  const circuits = entryOf?.circuits !== undefined && canBeWired(kind) ? entryOf.circuits : 0;
  const apart = circuits > 1 && new Set(kind.controls.map((c) => wiring[c.id] ?? 1)).size > 1;
  /** The lamp with its colours on circuits, whose dials stand as bright as the day gets, under a cap or without one. */
  const onClock = (capShare: number) =>
    apart
      ? wired(
          kind,
          profile,
          wiring,
          dialsOf(kind, lit.threads).map((v) => v * capShare),
        )
      : undefined;
  /** Takes a day, and with it the controller it was made for: one step of undo. */
  const keep = (
    name: string,
    threads: readonly ResolvedThread[],
    capShare?: number,
    hung?: LampKind,
  ): boolean => {
    const lamp = setLampKind(
      hung ?? { ...kind, controller: profile },
      hung && ((mix) => onCircuits(kind, wiring, mix)),
    );
    if (chosen === 'own') return run(takeDay(doc, group, name, threads, capShare));
    return run({
      name,
      // the day is of the lamp as it then hangs: its threads are told apart by that lamp's controls
      apply: (b: CaseBundle) => {
        const hung = lamp.apply(b);
        const then = hung.case.zones.flatMap((z) => z.groups).find((g) => g.id === group.id)!;
        return takeDay(hung.case, then, name, threads, capShare).apply(hung);
      },
    });
  };
  const choose = (id: string) => {
    clear();
    doable.clear();
    setChosen(id);
  };
  const ask = (): FitAsk => ({
    ...{ kind, threads: lit.threads, controller: profile, home: zone.home ?? USUAL_HOME },
    worth: worthOf(light!, index, spotIndex),
    capShare: group.capShare,
    wired: onClock(1),
    own: ownWeights(byHand),
  });
  return (
    <Page
      testID="fit"
      title="Fit to a controller"
      under={`${group.name} · ${kind.controller.name}`}
      sentence={
        <Type kind="sentence" testID="fit-sentence">
          {lit.threads.length === 0
            ? 'There is no day yet to be fitted: add threads on Day.'
            : foreign
              ? `${foreign}.`
              : wrong.length === 0
                ? `${profile.name} takes this day as it stands${profile.pointStepShare > kind.controller.pointStepShare ? ', apart from its coarser steps' : ''}.`
                : `${profile.name} cannot take this day: ${wrong.join('; ')}.`}
        </Type>
      }
      side={
        <>
          <Section title="Controllers">
            <View role="radiogroup" aria-label="Controller">
              {[
                { id: 'own', about: profileWords(kind.controller), profile: kind.controller },
                ...CONTROLLERS,
              ].map((c) => (
                <Row key={c.id} onPress={() => choose(c.id)} name={c.profile.name}>
                  <View style={{ flex: 1 }}>
                    <Type kind="label">
                      {`${chosen === c.id ? '● ' : '○ '}${c.id === 'own' ? `This lamp’s: ${c.profile.name}` : c.profile.name}`}
                    </Type>
                    <Type kind="small">{c.id === 'own' ? c.about : profileWords(c.profile)}</Type>
                  </View>
                </Row>
              ))}
            </View>
            <Type kind="small">
              Kinds of controllers, invented and generic; what yours takes is in its manual.
            </Type>
            <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
              {chosen !== 'own' && (
                <Button
                  label="My lamp’s controller is this one"
                  testID="adopt-controller"
                  onPress={() => {
                    if (run(setLampKind({ ...kind, controller: profile }))) choose('own');
                  }}
                />
              )}
              <Button
                label="Edit this lamp’s controller"
                testID="edit-controller"
                onPress={() => setEditing(true)}
              />
            </View>
          </Section>
          <OfSpot says="Judged at" spots={zone.spots} spot={spot} />
        </>
      }
    >
      <GroupChoice />
      {!ready ? (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={240} />
      ) : (
        <>
          {circuits > 1 && (
            <Wired
              {...{ kind, circuits, wiring }}
              onWire={(next) => {
                clear();
                setWiring(next);
              }}
            />
          )}
          <Weighed {...{ byHand }} onWeigh={setByHand} />
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button
              label="Fit this day"
              kind="filled"
              disabled={lit.threads.length === 0 || foreign !== null}
              testID="fit-day"
              onPress={() => {
                doable.clear();
                fit(ask());
              }}
            />
            <Button
              label="Days it can do well"
              disabled={lit.threads.length === 0 || foreign !== null}
              testID="doable"
              onPress={() => {
                clear();
                doable.look(
                  {
                    kind,
                    base: baseOf(kind, lit.threads, light.par[index]![spotIndex]!) ?? {},
                    lit: null,
                    others: [],
                    lookedAt: true,
                    home: zone.home ?? USUAL_HOME,
                    capShare: lit.day.capShare,
                    easingShare: lit.day.easingShare,
                    par: light.par[index]![spotIndex]!,
                  },
                  lit.threads,
                  worthOf(light, index, spotIndex),
                  profile,
                );
              }}
            />
          </View>
          {(progress ?? doable.progress) !== null && (
            <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
              <Type role="status" testID="fit-progress">
                {`${progress === null ? 'Shaping' : 'Fitting'}, ${percent((progress ?? doable.progress)!)}`}
              </Type>
              <Button label="Stop" onPress={progress === null ? doable.cancel : cancel} />
            </View>
          )}
          {(failed ?? doable.error) && (
            <Note>{`The day could not be fitted: ${failed ?? doable.error}. Nothing was changed.`}</Note>
          )}
          {found && (
            <View style={{ gap: space.l }} testID="fitted">
              {found.map((answer, i) => (
                <Answer
                  key={answer.aims[0]}
                  {...{ desk, groups, light, answer }}
                  hung={onClock(group.capShare) ?? behind(kind, profile)}
                  said={fitWords(answer, {
                    ...{ kind, controller: profile, capShare: group.capShare },
                    wired: onClock(1),
                  })}
                  weighed={weighedWords(byHand)}
                  stepOf={(after) => stepWords(judge(after), zone)}
                  first={i === 0}
                  onKeep={() => {
                    if (
                      keep(
                        `fitted to ${profile.name}`,
                        answer.threads,
                        answer.capShare,
                        onClock(group.capShare),
                      )
                    )
                      toDay(`The day fitted to ${profile.name}`);
                  }}
                />
              ))}
              <Button label="Leave the day as it is" onPress={clear} />
              {chosen !== 'own' && (
                <Type kind="small">
                  {`Kept, ${group.name} count as having this controller in place of “${kind.controller.name}”; undo takes both back.`}
                </Type>
              )}
            </View>
          )}
          {doable.found && (
            <View style={{ gap: space.l }} testID="doable-days">
              <Type>
                {doable.found.length === 0
                  ? 'No pattern meets the present light on this controller within 2 %: the fit above says what comes nearest.'
                  : `${plural(doable.found.length, 'day')} with the present light that this controller runs as drawn, most like yours first:`}
              </Type>
              {doable.found.map((d) => (
                <DoableDay
                  key={d.name}
                  {...{ desk, groups, light }}
                  day={d}
                  hung={behind(kind, profile)}
                  stepOf={(after) => stepWords(judge(after), zone)}
                  onTake={() => {
                    if (keep(`${d.name} for ${profile.name}`, d.threads)) toDay(d.name);
                  }}
                />
              ))}
            </View>
          )}
        </>
      )}
      {editing && <ControllerSheet kind={kind} onClose={() => setEditing(false)} />}
    </Page>
  );
}

/** Goes to Day, which says what was taken. */
const toDay = (took: string) => router.navigate({ pathname: '/day', params: { took } });
