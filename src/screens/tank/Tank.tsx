import type { Standing } from '@/core/record/needs';
import { router, useLocalSearchParams } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { brightestLevels, parUnder } from '@/core/case/light';
import { type Candidate, type FoundPlaces, standings } from '@/core/case/places';
import { judge } from '@/core/case/safety';
import type { HungLamp, Spot } from '@/core/record/zone';
import { useDesk } from '@/state/desk';
import { useAccustomed } from '@/state/light';
import { changeSettings } from '@/state/settings';
import { useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Fold } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { HungLampSheet, SpotSheet } from '../sheets';
import { HangingCautions } from '../shared/Cautions';
import { Ahead } from '../shared/Ahead';
import { inWords, tenantsOf } from '../shared/words';
import { ChartChoices } from './ChartChoices';
import { Charts } from './Charts';
import { CheckSheet } from './CheckSheet';
import { Corals } from './Corals';
import { EvennessSection } from './Evenness';
import { JustMoved } from './JustMoved';
import { NeedsSheet } from './NeedsSheet';
import { type Place } from './parts';
import { Probe } from './Probe';
import { RockSheet } from './RockSheet';
import { type TankLight, useTankLight } from './useTankLight';
import { WaterSheet } from './WaterSheet';

const NONE: Candidate[] = [];
const OPENS = ['rock', 'water', 'needs', 'check'] as const;
type Open = (typeof OPENS)[number];

/** The tank as a sounding chart: light where the corals sit. */
export function Tank() {
  const desk = useDesk();
  const { zone, spot } = desk;
  const page = usePageSize();
  const light = useTankLight(desk);
  const { open: asked } = useLocalSearchParams<{ open?: string }>();
  const [probe, setProbe] = useState<Place | null>(null);
  const [editing, setEditing] = useState<{ spot: Spot; isNew: boolean } | null>(null);
  const [hanging, setHanging] = useState<{ groupId: string; lamp: HungLamp } | null>(null);
  const [open, setOpen] = useState<Open | null>(OPENS.find((o) => o === asked) ?? null);
  const [found, setFound] = useState<FoundPlaces | null>(null);
  const peak = (i: number) =>
    light.light ? parUnder(light.light, brightestLevels(light.light, light.groups, i), i) : 0;
  const judged = light.light ? standings(zone, peak) : [];

  const nowMs = useNowMs();
  const accustomed = useAccustomed(zone, desk.bundle, light.cal, nowMs);
  const safety = light.light && accustomed ? judge(light.light, light.groups, accustomed.perSpot) : [];

  const probing = probe && light.field.field && (
    <Probe
      desk={desk}
      light={light}
      place={probe}
      width={page.side}
      onClose={() => setProbe(null)}
      onKeep={(kept) => setEditing({ spot: kept, isNew: true })}
    />
  );

  return (
    <Page
      testID="tank"
      title="Tank"
      under={`${zone.name} · ${zone.tank.lengthCm} × ${zone.tank.widthCm} × ${zone.tank.depthCm} cm of water`}
      sentence={
        <Type
          kind="sentence"
          testID="tank-sentence"
          roomLines={
            light.light || zone.spots.length === 0 || light.groups.length === 0 ? 0 : page.wide ? 2 : 3
          }
          style={{ maxWidth: 700 }}
        >
          {tankSentence(
            judged.map((j) => ({ name: zone.spots[j.spot]!.name, standing: j.standing })),
            light,
            tenantsOf(zone.spots),
          )}
        </Type>
      }
      side={
        light.groups.length > 0 && (
          <>
            {page.wide && probing}
            <Corals
              desk={desk}
              light={light}
              judged={judged}
              safety={safety}
              onEdit={(s) => setEditing({ spot: s, isNew: false })}
              found={found}
              onFound={setFound}
            />
            {safety.length > 0 && <Ahead zone={zone} past={desk.bundle} cal={light.cal} nowMs={nowMs} />}
            <EvennessSection desk={desk} light={light} />
          </>
        )
      }
    >
      {light.groups.length === 0 ? (
        <>
          <Type>
            Here stands the tank with its corals and the light at each of them. It needs a lamp first.
          </Type>
          <Button label="Add a lamp" kind="filled" wide onPress={() => router.navigate('/lamps')} />
        </>
      ) : (
        <>
          <Charts
            desk={desk}
            light={light}
            width={page.main}
            wide={page.wide}
            probe={probe}
            candidates={found?.candidates ?? NONE}
            onProbe={setProbe}
            onSpot={(s) => {
              changeSettings({ spotId: s.id });
              if (spot?.id === s.id) setEditing({ spot: s, isNew: false });
            }}
            onLamp={(groupId, lamp) => setHanging({ groupId, lamp })}
          />
          {!page.wide && probing}
          <JustMoved desk={desk} safety={safety} nowMs={nowMs} />
          <ChartChoices light={light} />
        </>
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button label="Readings" onPress={() => router.navigate('/readings')} testID="to-readings" />
        <Button label="Calibration" onPress={() => router.navigate('/calibration')} testID="to-calibration" />
        <Button label="Walls and rock" onPress={() => setOpen('rock')} testID="to-rock" />
        <Button label="What kinds want" onPress={() => setOpen('needs')} testID="to-needs" />
        <Button label="Yellow water" onPress={() => setOpen('water')} testID="to-water" />
        <Button label="Algae" onPress={() => router.navigate('/algae')} testID="to-algae" />
        <Button label="Check this model" onPress={() => setOpen('check')} testID="to-check" />
      </View>
      <Fold title="Cautions for lamps over water">
        <HangingCautions />
      </Fold>
      {editing && (
        <SpotSheet {...editing} zone={zone} onClose={() => setEditing(null)} key={editing.spot.id} />
      )}
      {hanging && <HungLampSheet {...hanging} zone={zone} onClose={() => setHanging(null)} />}
      {open === 'rock' && <RockSheet zone={zone} onClose={() => setOpen(null)} />}
      {open === 'needs' && <NeedsSheet zone={zone} onClose={() => setOpen(null)} />}
      {open === 'water' && <WaterSheet desk={desk} light={light} onClose={() => setOpen(null)} />}
      {open === 'check' && <CheckSheet desk={desk} groups={light.groups} onClose={() => setOpen(null)} />}
    </Page>
  );
}

function tankSentence(
  judged: { name: string; standing: Standing }[],
  light: TankLight,
  who: ReturnType<typeof tenantsOf>,
): string {
  if (light.groups.length === 0) return 'No lamp hangs over this water yet.';
  if (!light.light) return 'The light is being computed.';
  const whose = light.whose === 'running' ? 'as it runs' : 'as drafted';
  if (judged.length === 0) return `No ${who.one} is known here yet; the light is shown ${whose}.`;
  const names = (s: 'below' | 'above') =>
    judged
      .filter((j) => j.standing === s)
      .map((j) => j.name)
      .join(', ');
  const right = judged.filter((j) => j.standing === 'within').length;
  const off = [
    names('above') && `too much at ${names('above')}`,
    names('below') && `too little at ${names('below')}`,
  ].filter(Boolean);
  const all = judged.length;
  return off.length === 0
    ? `${all === 1 ? `The ${who.one} has the light it wants` : `All ${inWords(all)} ${who.many} have the light they want`} at the day’s brightest, ${whose}.`
    : all === 1
      ? `The ${who.one} does not have what it wants at the day’s brightest, ${whose}: ${off.join('; ')}.`
      : `${right === 0 ? 'None' : `${inWords(right).replace(/^./, (c) => c.toUpperCase())}`} of ${inWords(all)} ${who.many} have what they want at the day’s brightest, ${whose}: ${off.join('; ')}.`;
}
