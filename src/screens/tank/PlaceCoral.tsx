import { useQuery } from '@tanstack/react-query';
import { router, useLocalSearchParams } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { type CoralForm, FORMS } from '@/core/coral/form';
import type { CoralPlace, InHand } from '@/core/case/placing';
import { calibrationKey } from '@/core/case/calibration';
import { rigKey } from '@/core/case/lit';
import { brightestMinute } from '@/core/case/plateaus';
import { sharesAt } from '@/core/case/rows';
import { PLACES, times } from '@/core/case/verdict';
import { NEEDS, type NeedId, wantsOfKind } from '@/core/record/needs';
import { plainSpot } from '@/core/record/zone';
import { lengthWords } from '@/core/shape/units';
import { setSpot } from '@/state/commands/spots';
import { draftOf, type Desk, runningOf, useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { useCeiling } from '@/state/judgement';
import { useCalibration, useLight } from '@/state/light';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { placingQuery } from '@/state/hanging';
import { useField } from '@/state/tank';
import { localDate, useNowMs } from '@/state/time';
import { useTyped } from '@/state/typed';
import { Button } from '@/ui/Button';
import { FieldRow, TextField, ValueField } from '@/ui/Field';
import { Page } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { parseNumber } from '@/ui/parseNumber';
import { Sentence } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { bandWords, mol, umol } from '../shared/words';
import { PlacePlan } from './PlacePlan';
import { firstWords, letter, moreWords, whenWords } from './placeWords';

const KINDS = (Object.keys(NEEDS) as NeedId[]).filter((n) => n !== 'nonPhotosynthetic' && n !== 'macroalgae');
const NOBODY = { peakUmol: 100, hours: 9 };
const SHAPED: Partial<Record<NeedId, readonly CoralForm['shape'][]>> = {
  soft: ['leather', 'polyps', 'disc', 'tentacles'],
  largePolyp: ['brain', 'cup', 'tentacles', 'polyps'],
  smallPolyp: ['branch', 'table', 'plate', 'crust'],
  clam: ['clam'],
  anemone: ['anemone'],
};

/** Who is in hand: kept in the address but for the name, which is typed. */
function useInHand(desk: Desk) {
  const p = useLocalSearchParams<Record<string, string>>();
  const need = KINDS.find((k) => k === p.kind) ?? 'smallPolyp';
  const forms = [...desk.doc.forms, ...FORMS].filter((f) => SHAPED[need]?.includes(f.shape));
  const form = forms.find((f) => f.id === p.form) ?? null;
  const number = (text: string | undefined, low: number, high: number) => {
    const v = Number(text);
    return text && Number.isFinite(v) && v >= low && v <= high ? v : null;
  };
  const [peak, hours] = [number(p.peak, 1, 3000), number(p.hours, 0.5, 24)];
  const cameFrom = peak === null ? null : { peakUmol: peak, hours: hours ?? NOBODY.hours };
  const set = (change: Record<string, string>) => router.setParams(change);
  return { coral: { need, form, cameFrom } satisfies InHand, forms, set };
}

/** A coral that is in hand: where it could go, how soon, and who would be its neighbours. */
export function PlacePage() {
  const desk = useDesk();
  const { zone, bundle } = desk;
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const ceiling = useCeiling();
  const { coral, forms, set } = useInHand(desk);
  const typed = useTyped(`coral in hand in ${zone.id}`);
  const [name, setName] = typed.of('name', `Coral ${zone.spots.length + 1}`);
  const running = runningOf(desk, nowMs).groups;
  const groups = running.length > 0 ? running : draftOf(desk);
  const { field } = useField(groups, zone, cal);
  const { light } = useLight(groups, zone, cal);
  const [open, setOpen] = useState(0);
  const shares = useMemo(
    () => (light ? sharesAt(groups, brightestMinute(light, groups), cal) : new Float64Array()),
    [light, groups, cal],
  );
  const { data: found = null, error } = useQuery(
    placingQuery(
      [rigKey(groups, zone, zone.spots, cal), calibrationKey(cal), groups.map((g) => g.threads), zone.spots],
      coral,
      zone,
      groups,
      cal,
      light && field ? field : null,
      shares,
      ceiling,
    ),
  );
  const first = found?.places[0];
  const take = (p: CoralPlace) => {
    const id = p.spotId ?? newId();
    const kept = zone.spots.find((s) => s.id === p.spotId);
    const { xCm, yCm, depthCm } = p;
    const done = run(
      setSpot(zone.id, {
        ...plainSpot({
          ...{ id, name: name.trim() || `Coral ${zone.spots.length + 1}`, need: coral.need },
          ...(kept ?? { xCm: Math.round(xCm), yCm: Math.round(yCm), depthCm: Math.round(depthCm) }),
        }),
        ...{ id, name: name.trim() || `Coral ${zone.spots.length + 1}`, need: coral.need },
        arrived: localDate(nowMs, zone.timeZone),
        formId: coral.form?.id ?? null,
        ...(coral.cameFrom ? { cameFrom: coral.cameFrom } : {}),
      }),
    );
    if (!done) return;
    typed.clear();
    changeSettings({ spotId: id });
    router.navigate(
      p.afterDays === 0 ? '/tank' : (`/ease?of=running&coral=${encodeURIComponent(id)}` as never),
    );
  };
  return (
    <Page
      testID="place"
      title="A coral in hand"
      under={`${zone.name} · a place for it`}
      sentence={
        <Type kind="sentence" testID="place-sentence" roomLines={2} style={{ maxWidth: 700 }}>
          {groups.length === 0
            ? 'Without a lamp no place has light to choose by.'
            : error
              ? `The places could not be computed: ${error.message}.`
              : !found
                ? 'The light of every place is being computed.'
                : !first
                  ? 'No place is free here: corals or glass are too near everywhere.'
                  : firstWords(first, found.places, ceiling)}
        </Type>
      }
    >
      <Sentence
        testID="in-hand"
        parts={[
          'A ',
          {
            ...{ id: 'kind', name: 'What it is', chosen: coral.need, value: NEEDS[coral.need].name },
            options: KINDS.map((k) => {
              const { fromUmol, toUmol } = wantsOfKind(k, zone);
              return { value: k, label: `${NEEDS[k].name}, ${fromUmol}–${toUmol} µmol` };
            }),
            onChoose: (kind) => set({ kind, form: '' }),
          },
          ', ',
          {
            ...{ id: 'form', name: 'What it looks like', chosen: coral.form?.id ?? '' },
            value: coral.form?.name.toLowerCase() ?? 'its looks not said',
            options: [
              { value: '', label: 'not said' },
              ...forms.map((f) => ({ value: f.id, label: f.name })),
            ],
            onChoose: (form) => set({ form }),
          },
          ', called ',
          {
            ...{ id: 'name', name: 'Its name', value: name },
            panel: <TextField label="Its name" value={name} onChange={setName} testID="hand-name" />,
          },
          ', from ',
          {
            ...{ id: 'from', name: 'The light it comes from' },
            value: coral.cameFrom
              ? `${umol(coral.cameFrom.peakUmol)} µmol for ${coral.cameFrom.hours} h`
              : 'a light nobody knows',
            panel: (
              <View style={{ gap: space.s }}>
                <FieldRow>
                  <ValueField
                    label="Its brightest there"
                    value={coral.cameFrom ? String(coral.cameFrom.peakUmol) : ''}
                    unit="µmol"
                    numeric
                    testID="hand-peak"
                    hint="Empty = not known: it is then taken for used to the least of its kind."
                    onCommit={(text) => {
                      if (text.trim() === '') {
                        set({ peak: '' });
                        return null;
                      }
                      const v = parseNumber(text);
                      if (v === null || v < 1 || v > 3000) return 'Give 1 to 3000 µmol, or nothing.';
                      set({ peak: String(v) });
                      return null;
                    }}
                  />
                  <ValueField
                    label="For so long a day"
                    value={String(coral.cameFrom?.hours ?? NOBODY.hours)}
                    unit="h"
                    numeric
                    testID="hand-hours"
                    onCommit={(text) => {
                      const v = parseNumber(text);
                      if (v === null || v < 0.5 || v > 24) return 'Give 0.5 to 24 h.';
                      set({ hours: String(v) });
                      return null;
                    }}
                  />
                </FieldRow>
              </View>
            ),
          },
          '.',
        ]}
      />
      {groups.length === 0 && (
        <Button label="Add a lamp" kind="filled" wide onPress={() => router.navigate('/lamps')} />
      )}
      {found && <PlacePlan {...{ desk, found, open }} onOpen={setOpen} />}
      {found && found.places.length > 0 && (
        <Section title="Places">
          <View>
            {found.places.map((p, i) => (
              <View key={`${p.xCm} ${p.yCm} ${p.depthCm}`}>
                <Row
                  name={`${p.name}: ${umol(p.umol)} µmol, ${PLACES[p.placed.place].words}, ${whenWords(p, ceiling)}`}
                  onPress={() => setOpen(i)}
                >
                  <View style={{ flex: 1, paddingVertical: space.s }} testID={`place-${i}`}>
                    <Type
                      kind={i === open ? 'strong' : 'label'}
                    >{`${letter(i)} · ${p.name}, ${lengthWords(Math.round(p.depthCm))} deep`}</Type>
                    <Type kind="small">{`${umol(p.umol)} µmol ${bandWords(p.bandShare)}, ${mol(p.dliMol)} mol a day; ${times(p.step.ratio, p.bandShare)} what it comes from; ${whenWords(p, ceiling)}`}</Type>
                  </View>
                  <Type kind="label" style={{ width: 116, textAlign: 'right' }}>
                    {`${PLACES[p.placed.place].sign} ${PLACES[p.placed.place].words}`}
                  </Type>
                </Row>
                {i === open && (
                  <View style={{ gap: space.s, paddingBottom: space.m }}>
                    <Type kind="small" testID="place-more">
                      {moreWords(p, found.ways[i]!, found.places, desk)}
                    </Type>
                    <Button
                      label={p.afterDays === 0 ? 'It goes here' : 'It goes here, eased in'}
                      kind="filled"
                      onPress={() => take(p)}
                      testID="take-place"
                    />
                  </View>
                )}
              </View>
            ))}
          </View>
          <Type kind="small">
            Light is of the day’s brightest as it runs. Floor, rock and your empty spots are looked at; a rack
            or ledge is one once it is a spot on the chart. Ranges by kind and the reach of stings are rules
            of thumb; flow and food decide as much. Handle corals with gloves and eye protection: some hold
            strong toxins.
          </Type>
        </Section>
      )}
    </Page>
  );
}
