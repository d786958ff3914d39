import { sizeWords } from '@/core/shape/units';
import { router, useLocalSearchParams } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { type Judgement, stepGravity } from '@/core/case/judgement';
import { type Candidate, type FoundPlaces } from '@/core/case/places';
import { largeWords, rangeVerdict } from '@/core/case/verdict';
import type { HungLamp, Spot } from '@/core/record/zone';
import { useDesk } from '@/state/desk';
import { judgementOf, useDraftState, useRunningCeiling } from '@/state/judgement';
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
import { DraftLine } from '../shared/DraftLine';
import { MARKS } from '../shared/Verdict';
import { tenantsOf } from '../shared/words';
import { Charts } from './Charts';
import { LayerTable } from './LayerTable';
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
  const [editing, setEditing] = useState<Spot | null>(null);
  const [hanging, setHanging] = useState<{ groupId: string; lamp: HungLamp } | null>(null);
  const [open, setOpen] = useState<Open | null>(OPENS.find((o) => o === asked) ?? null);
  const [found, setFound] = useState<FoundPlaces | null>(null);
  const nowMs = useNowMs();
  const accustomed = useAccustomed(zone, desk.bundle, light.cal, nowMs);
  const drafted = useDraftState(desk, nowMs);
  const running = useRunningCeiling(desk.bundle.history, zone, nowMs);
  const judged = light.light
    ? judgementOf(
        light.whose === 'running' ? 'runs' : drafted.state,
        zone,
        light.groups,
        light.light,
        light.cal,
        accustomed?.perSpot ?? null,
        light.whose === 'running' ? running : drafted.ceiling,
        light.whose !== 'running' && drafted.usedToIt,
      )
    : null;

  const probing = probe && light.field.field && (
    <Probe
      desk={desk}
      light={light}
      place={probe}
      width={page.side}
      onClose={() => setProbe(null)}
      onKeep={(kept) => setEditing(kept)}
    />
  );

  const about = (
    <>
      <Fold title="Readings, rock, water, algae" open={page.wide} testID="tank-more">
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
          <Button label="Readings" onPress={() => router.navigate('/readings')} testID="to-readings" />
          <Button
            label="Calibration"
            onPress={() => router.navigate('/calibration')}
            testID="to-calibration"
          />
          <Button label="Walls and rock" onPress={() => setOpen('rock')} testID="to-rock" />
          <Button label="What kinds want" onPress={() => setOpen('needs')} testID="to-needs" />
          <Button label="Yellow water" onPress={() => setOpen('water')} testID="to-water" />
          <Button label="Algae" onPress={() => router.navigate('/algae')} testID="to-algae" />
          <Button label="Hang the lamps" onPress={() => router.navigate('/hang' as never)} testID="to-hang" />
          <Button
            label="The whole tank"
            onPress={() => router.navigate('/whole' as never)}
            testID="to-whole"
          />
          <Button label="Check this model" onPress={() => setOpen('check')} testID="to-check" />
        </View>
        {light.groups.length > 0 && (
          <Fold title="The chart as a table" testID="chart-table">
            <LayerTable desk={desk} light={light} />
          </Fold>
        )}
      </Fold>
      <Fold title="Cautions for lamps over water">
        <HangingCautions />
      </Fold>
    </>
  );

  return (
    <Page
      testID="tank"
      title="Tank"
      under={`${zone.name} · ${sizeWords(zone.tank.lengthCm, zone.tank.widthCm, zone.tank.depthCm)} of water`}
      sentence={
        <Type
          kind="sentence"
          testID="tank-sentence"
          roomLines={
            light.light || zone.spots.length === 0 || light.groups.length === 0 ? 0 : page.wide ? 2 : 3
          }
          style={{ maxWidth: 700 }}
        >
          {tankSentence(judged, light, tenantsOf(zone.spots))}
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
              onEdit={(s) => setEditing(s)}
              found={found}
              open={page.wide}
              onFound={setFound}
            />
            <View style={{ gap: page.wide ? space.l : 0 }}>
              <EvennessSection desk={desk} light={light} open={page.wide} />
              {about}
            </View>
          </>
        )
      }
    >
      <DraftLine desk={desk} />
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
            judged={judged}
            width={page.main}
            wide={page.wide}
            probe={probe}
            candidates={found?.candidates ?? NONE}
            onProbe={setProbe}
            onSpot={(s) => {
              changeSettings({ spotId: s.id });
              if (spot?.id === s.id) setEditing(s);
            }}
            onLamp={(groupId, lamp) => setHanging({ groupId, lamp })}
          />
          {!page.wide && probing}
          <JustMoved desk={desk} judged={judged} nowMs={nowMs} />
        </>
      )}
      {light.groups.length === 0 && about}
      {editing && <SpotSheet key={editing.id} spot={editing} zone={zone} onClose={() => setEditing(null)} />}
      {hanging && <HungLampSheet {...hanging} zone={zone} onClose={() => setHanging(null)} />}
      {open === 'rock' && <RockSheet zone={zone} onClose={() => setOpen(null)} />}
      {open === 'needs' && <NeedsSheet zone={zone} onClose={() => setOpen(null)} />}
      {open === 'water' && <WaterSheet desk={desk} light={light} onClose={() => setOpen(null)} />}
      {open === 'check' && <CheckSheet desk={desk} groups={light.groups} onClose={() => setOpen(null)} />}
    </Page>
  );
}

function tankSentence(judged: Judgement | null, light: TankLight, who: ReturnType<typeof tenantsOf>): string {
  if (light.groups.length === 0) return 'No lamp hangs over this water yet.';
  if (!judged) return 'The light is being computed.';
  const large = largeWords(judged);
  return `${large ? `${MARKS[stepGravity(judged)]}${large}. ` : ''}${rangeVerdict(judged, who)}`;
}
