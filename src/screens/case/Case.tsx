import { plural } from '@/core/shape/counts';
import { lengthFigure, lengthRange, lengthWords, sizeWords } from '@/core/shape/units';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';
import type { HungLamp, Spot, Zone } from '@/core/record/zone';
import { NEEDS, wantsOf } from '@/core/record/needs';
import { alga } from '@/core/feeding/algae';
import { fullWallWatts } from '@/core/spectrum/watts';
import { setZone } from '@/state/commands/waters';
import { setLampKind } from '@/state/commands/lamps';
import { useDesk } from '@/state/desk';
import { useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Page, usePageSize } from '@/ui/Page';
import { Fold, Row, Section } from '@/ui/Parts';
import { Sentence } from '@/ui/Sentence';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { EyeCaution, SheetCautions, WeightCaution } from '../shared/Cautions';
import { newSpot } from '../shared/newSpot';
import { parBasis, tenantsOf, watts } from '../shared/words';
import { HungLampSheet, LampKindSheet, SpotSheet } from '../sheets';
import { Backup } from './Backup';
import { Cases } from './Cases';
import { Waters } from './Waters';
import { ThisDevice, Aside } from './ThisDevice';

/** Tank, lamps, spots, readings, data and cautions. */
export function Case() {
  const { doc, zone } = useDesk();
  // sizes and hours of the page are said anew when their units change
  useSettings((s) => s.units);
  return (
    <Page
      testID="case"
      title="Case"
      under={doc.demo ? `${doc.name} · demo, made up` : doc.name}
      side={
        <>
          <Cases />
          <Backup />
          <ThisDevice />
          <Aside />
          <Section title="Cautions">
            <EyeCaution />
            <SheetCautions />
            <WeightCaution />
          </Section>
        </>
      }
    >
      <Waters />
      <Water key={zone.id} zone={zone} />
      <Lamps />
      <Spots />
      <Readings />
    </Page>
  );
}

function Water({ zone }: { zone: Zone }) {
  const { doc } = useDesk();
  const yellow = yellowOf(zone.water.yellow440PerM);
  const size = (key: keyof Zone['tank'], label: string, limit: number) => (
    <ValueField
      label={label}
      value={String(zone.tank[key])}
      unit="cm"
      numeric
      testID={`zone-${key}`}
      onCommit={(text) => {
        const value = parseNumber(text);
        if (value === null || value < 5 || value > limit) return `Give ${lengthRange(5, limit)}.`;
        return run(setZone(zone.id, { tank: { ...zone.tank, [key]: value } })) ? null : 'Not taken.';
      }}
    />
  );
  return (
    <Section title={doc.zones.length > 1 ? `The water of ${zone.name}` : 'The water'}>
      <Sentence
        parts={[
          'It is ',
          {
            id: 'water-size',
            name: 'Size of the water',
            value: sizeWords(zone.tank.lengthCm, zone.tank.widthCm, zone.tank.depthCm),
            panel: (
              <FieldRow>
                {size('lengthCm', 'Length', 1000)}
                {size('widthCm', 'Width', 1000)}
                {size('depthCm', 'Water depth', 300)}
              </FieldRow>
            ),
          },
          ', ',
          {
            id: 'water-yellow',
            name: 'How yellow the water is',
            value: YELLOW[yellow].says,
            panel: (
              <>
                <Choice
                  label="Yellowing (a rule of thumb until it is measured)"
                  value={yellow}
                  onChange={(value) =>
                    run(setZone(zone.id, { water: { ...zone.water, yellow440PerM: YELLOW[value].perM } }))
                  }
                  options={YELLOWS.map((value) => ({ value, label: YELLOW[value].label }))}
                />
                <Type kind="small">{`Yellow substances absorb ${zone.water.yellow440PerM.toFixed(2)} per metre at 440 nm, more towards violet.`}</Type>
              </>
            ),
          },
          `; its days follow ${zone.timeZone}.`,
        ]}
      />
    </Section>
  );
}

/** Absorption by yellow substances at 440 nm, m⁻¹. Mark: rule of thumb. */
const YELLOW = {
  fresh: { perM: 0.035, label: 'fresh carbon', says: 'clear from fresh carbon' },
  average: { perM: 0.2, label: 'average', says: 'as yellow as most' },
  neglected: { perM: 0.8, label: 'long neglected', says: 'yellow, long neglected' },
} as const;
const YELLOWS = ['fresh', 'average', 'neglected'] as const;
const yellowOf = (perM: number): keyof typeof YELLOW =>
  perM < 0.08 ? 'fresh' : perM < 0.45 ? 'average' : 'neglected';

function Lamps() {
  const { doc, zone } = useDesk();
  const [editing, setEditing] = useState<string | null>(null);
  const [hanging, setHanging] = useState<{ groupId: string; lamp: HungLamp | null } | null>(null);
  const kind = doc.lampKinds.find((k) => k.id === editing);
  return (
    <Section title="Lamps">
      {zone.groups.length === 0 && <Type quiet>No lamp hangs here yet.</Type>}
      {zone.groups.map((g) => {
        const k = doc.lampKinds.find((x) => x.id === g.lampKindId)!;
        return (
          <View key={g.id} style={{ gap: space.xs }}>
            <Row onPress={() => setEditing(k.id)} name={`Edit ${k.name}`}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{`${g.name}: ${k.name}`}</Type>
                <Type kind="small">{`${plural(k.channels.length, 'channel')}, ${watts(fullWallWatts(k))} at full each, beam ${k.beamAngleDeg}°`}</Type>
              </View>
              <Type kind="small">Edit</Type>
            </Row>
            {g.lamps.map((l) => (
              <Row
                key={l.id}
                onPress={() => setHanging({ groupId: g.id, lamp: l })}
                name={`Move lamp ${l.name}`}
                style={{ paddingLeft: space.l }}
              >
                <Type kind="label" style={{ flex: 1 }}>
                  {l.name}
                </Type>
                <Type kind="small">{`${lengthWords(l.xCm, true)} from left, ${lengthFigure(l.yCm, true)} from front, ${lengthFigure(l.heightCm, true)} up`}</Type>
              </Row>
            ))}
            <View style={{ paddingLeft: space.l, alignItems: 'flex-start' }}>
              <Button
                label="Hang one more"
                kind="plain"
                icon={Plus}
                onPress={() => setHanging({ groupId: g.id, lamp: null })}
                name={`Hang one more ${k.name}`}
              />
            </View>
          </View>
        );
      })}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="Add a lamp"
          icon={Plus}
          onPress={() => router.navigate('/lamps' as never)}
          name="Add a lamp: library, typed in, or counted"
        />
        <Button label="Plates" onPress={() => router.navigate('/plates' as never)} />
        <Button
          label="Bench"
          name="Bench of simulated lamp heads"
          onPress={() => router.navigate('/bench')}
        />
        <Button label="Practice" onPress={() => router.navigate('/practice' as never)} />
      </View>
      {kind && (
        <LampKindSheet
          kind={kind}
          onSave={(changed) => run(setLampKind(changed))}
          onClose={() => setEditing(null)}
        />
      )}
      {hanging && <HungLampSheet {...hanging} zone={zone} onClose={() => setHanging(null)} />}
    </Section>
  );
}

function Spots() {
  const { zone } = useDesk();
  const { wide } = usePageSize();
  const [open, setOpen] = useState<Spot | null>(null);
  const many = zone.spots.length;
  return (
    <Fold
      title={
        many === 0
          ? 'No coral yet'
          : `Who lives here: ${plural(many, tenantsOf(zone.spots).one, tenantsOf(zone.spots).many)}`
      }
      open={wide || many === 0}
      testID="case-corals"
    >
      {zone.spots.length === 0 && (
        <Type quiet>No spot yet. A spot is a place in the water; light is always spoken of at one.</Type>
      )}
      <View>
        {zone.spots.map((s) => (
          <Row key={s.id} onPress={() => setOpen(s)} name={`Edit ${s.name}`}>
            <View style={{ flex: 1 }}>
              <Type kind="label">{s.name}</Type>
              <Type kind="small">
                {s.need
                  ? `${s.algaId ? alga(s.algaId).name.toLowerCase() : NEEDS[s.need].name}, wants ${wantsOf(s, zone)!.fromUmol}–${wantsOf(s, zone)!.toUmol} µmol${s.wants || zone.needs[s.need] ? '' : ' (rule of thumb)'}`
                  : 'nobody known to live there'}
              </Type>
            </View>
            <Type kind="small">{`${lengthFigure(s.xCm, true)} left, ${lengthFigure(s.yCm, true)} front, ${lengthWords(s.depthCm, true)} deep`}</Type>
          </Row>
        ))}
      </View>
      <Button label="Add a spot" icon={Plus} onPress={() => setOpen(newSpot(zone))} />
      {open && <SpotSheet key={open.id} spot={open} zone={zone} onClose={() => setOpen(null)} />}
    </Fold>
  );
}

function Readings() {
  const { zone, bundle, spot } = useDesk();
  const calibration = useCalibration(bundle, zone);
  const sessions = bundle.readings.sessions.filter((s) => s.zoneId === zone.id);
  return (
    <Section title="Readings">
      <Type testID="par-basis">
        {`PAR is ${calibration.readings === 0 ? 'an ' : ''}${parBasis(calibration)}.`}
      </Type>
      {sessions.length > 0 && (
        <Type kind="small">{`${plural(sessions.length, 'session')} at this tank.`}</Type>
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="My meter says …"
          icon={Plus}
          onPress={() => router.navigate({ pathname: '/readings', params: { read: spot?.id ?? '' } })}
          testID="new-reading"
        />
        <Button label="All readings" onPress={() => router.navigate('/readings')} />
      </View>
    </Section>
  );
}
