import { plural } from '@/core/shape/counts';
import { lengthWords, sizeWords, volumeWords } from '@/core/shape/units';
import { router, useLocalSearchParams } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { DAMP, ZONE_KINDS } from '@/core/record/chores';
import { aboutHours, formatHours } from '@/core/day/clock';
import { alga, ALGAE, type AlgaId } from '@/core/feeding/algae';
import { expectedWetGPerDay } from '@/core/refugium/growth';
import { aimUmol, type Role, ROLES } from '@/core/refugium/roles';
import type { LampAsk, LampWay } from '@/core/refugium/lampFor';
import { type Outlook, outlooks, standsInFor, takenByGrowth } from '@/core/refugium/outlook';
import { systemLitres } from '@/core/record/system';
import { algaeSpots } from '@/core/record/log/harvest';
import { matOf } from '@/core/refugium/mats';
import { algaSpot, hang, lampsFor } from '@/core/refugium/setUp';
import type { Ppm } from '@/core/feeding/removal';
import { addGroup } from '@/state/commands/lamps';
import { setSpot } from '@/state/commands/spots';
import { together } from '@/state/commands/edit';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { useLampFor } from '@/state/solvers';
import { useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { FieldRow, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Page } from '@/ui/Page';
import { Sentence } from '@/ui/Sentence';
import { Fold, Note, Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { AlgaeCautions, WeightCaution } from '../shared/Cautions';
import { SolvingRow } from '../shared/SolvingRow';
import { boundsWords as between } from '@/core/feeding/range';
import { percent } from '@/core/shape/percent';
import { umol, watts } from '../shared/words';
import { OutlookSection, OutlookWords } from './OutlookSection';
import { useMats } from './useMats';

const bounded = (text: string | undefined, fallback: number, low: number, high: number): number => {
  const v = Number(text);
  return text !== undefined && text !== '' && Number.isFinite(v) && v >= low && v <= high ? v : fallback;
};

/** Everything asked, kept in the address. */
function useAsked() {
  const desk = useDesk();
  const { zone } = desk;
  const p = useLocalSearchParams<Record<string, string>>();
  const spot = algaeSpots(zone)[0] ?? null;
  const chosen =
    ALGAE.find((a) => a.id === p.alga) ?? (spot?.algaId ? alga(spot.algaId) : alga('greenTangle'));
  return {
    desk,
    spot,
    alga: chosen,
    role: (p.role === 'helper' ? 'helper' : 'main') as Role,
    clearance: bounded(p.clear, 8, 1, 100),
    room: bounded(p.room, 40, 1, 200),
    hours: bounded(p.hours, Math.min(12, chosen.toHours), 1, 24),
    set: (change: Record<string, string>) => router.setParams(change),
  };
}

/** Size the light: a lamp for the footprint and role, what it will take out, and what that does to the water. */
export function Sizing() {
  const asked = useAsked();
  const { desk, spot, role, clearance, room, hours, set } = asked;
  const { zone, doc, bundle } = desk;
  const nowMs = useNowMs();
  const a = asked.alga;
  const { mats } = useMats(desk, nowMs);
  const solver = useLampFor();
  const [open, setOpen] = useState<LampWay | null>(null);
  const place = spot
    ? matOf(spot)
    : {
        xCm: zone.tank.lengthCm / 2,
        yCm: zone.tank.widthCm / 2,
        depthCm: Math.round(zone.tank.depthCm / 4),
        lengthCm: Math.round(zone.tank.lengthCm * 0.8),
        widthCm: Math.round(zone.tank.widthCm * 0.8),
      };
  const ask: LampAsk = {
    tank: zone.tank,
    water: zone.water,
    mat: place,
    alga: a,
    role,
    clearanceCm: clearance,
    roomCm: room,
    hours,
    lamps: lampsFor(
      a,
      zone.groups.map((g) => doc.lampKinds.find((k) => k.id === g.lampKindId)!),
    ),
  };
  const { litres } = systemLitres(doc);
  // what was found belongs to what was asked
  const { found } = solver;
  const stale = found !== null && JSON.stringify(found.ask) !== JSON.stringify(ask);
  const best = found?.ways[0];
  const taken = (w: LampWay, of: LampAsk) =>
    takenByGrowth(expectedWetGPerDay(of.alga, (of.mat.lengthCm * of.mat.widthCm) / 1e4, w.hours), litres);
  const field = (label: string, name: string, value: number, low: number, high: number, unit: string) => (
    <ValueField
      label={label}
      value={String(value)}
      unit={unit}
      numeric
      testID={`size-${name}`}
      onCommit={(text) => {
        const v = parseNumber(text);
        if (v === null || v < low || v > high) return `Give ${low} to ${high} ${unit}.`;
        set({ [name]: String(v) });
        return null;
      }}
    />
  );
  return (
    <Page
      testID="sizing"
      title="Size the light"
      under={`${zone.name} · mat ${sizeWords(place.lengthCm, place.widthCm)}, ${lengthWords(place.depthCm, true)} deep`}
      sentence={
        <Type kind="sentence" testID="sizing-sentence" style={{ maxWidth: 700 }}>
          {best && !stale
            ? best.standing === 'fits'
              ? `${plural(
                  best.lamps.length,
                  best.kind.name.replace(/^./, (c) => c.toLowerCase()),
                )} ${lengthWords(best.heightCm, true)} over the water ${best.lamps.length === 1 ? 'does' : 'do'} it: ${umol(best.mean)} µmol for ${watts(best.watts)}.`
              : 'None of these lamps fits as asked; the nearest stands first.'
            : `A ${ROLES[role]} of ${a.name.toLowerCase()} wants about ${Math.round(aimUmol(a, role))} µmol over the mat, nowhere above ${a.toUmol}.`}
        </Type>
      }
      side={
        <>
          <OutlookSection mats={mats} />
          <Fold title="Cautions">
            <AlgaeCautions damp={DAMP[zone.kind]} />
            <WeightCaution />
          </Fold>
        </>
      }
    >
      <Sentence
        parts={[
          'A ',
          {
            id: 'size-role',
            name: 'What it is to be',
            value: ROLES[role],
            chosen: role,
            options: Object.entries(ROLES).map(([value, label]) => ({ value, label })),
            onChoose: (v) => set({ role: v as Role }),
          },
          ' of ',
          {
            id: 'size-alga',
            name: 'Alga',
            value: a.name.toLowerCase(),
            chosen: a.id,
            options: ALGAE.map((x) => ({ value: x.id, label: x.name })),
            onChoose: (v) => set({ alga: v as AlgaId }),
          },
          ', lit ',
          {
            id: 'size-lit',
            name: 'Hours lit a day',
            value: formatHours(hours),
            panel: field('Lit', 'hours', hours, 1, 24, 'h'),
          },
          ' a day by a lamp ',
          {
            id: 'size-up',
            name: 'Room for the lamp',
            value: `at least ${lengthWords(clearance, true)} up`,
            panel: (
              <FieldRow>
                {field('Clear of splashes', 'clear', clearance, 1, 100, 'cm')}
                {field('Room above', 'room', room, 1, 200, 'cm')}
              </FieldRow>
            ),
          },
          `, with ${lengthWords(room, true)} of room above${room < clearance ? ': too little, it leans from beside' : ''}.`,
        ]}
      />
      {solver.progress === null && (
        <Button
          label={found ? 'Look again' : 'Find lamps'}
          kind={stale || !found ? 'filled' : undefined}
          wide
          onPress={() => solver.look(ask)}
          testID="find-lamps"
        />
      )}
      <SolvingRow solver={solver} what="Hanging lamps" />
      {stale && <Type kind="small">What stands below was found for what was asked before.</Type>}
      {found && (
        <Section title="Lamps over this mat">
          <View testID="lamp-ways">
            {found.ways.map((w, i) => (
              <Row
                key={`${w.kind.id}-${w.lamps.length}`}
                onPress={() => setOpen(w)}
                name={`${plural(w.lamps.length, w.kind.name)}: ${w.words}`}
                style={{ alignItems: 'flex-start' }}
              >
                <View style={{ flex: 1, gap: 2 }} testID={`way-${i}`}>
                  <Type kind="label">{`${w.lamps.length > 1 ? `${w.lamps.length} × ` : ''}${w.kind.name}`}</Type>
                  <Type kind="small">{`${w.standing === 'fits' ? '' : '▲ '}${w.words}`}</Type>
                  <Type kind="small">
                    {`${lengthWords(w.heightCm, true)} up${w.tilted ? ', leaning from behind' : ''} · ${w.level < 1 ? `${percent(w.level)} of full · ` : ''}${umol(w.min)}–${umol(w.max)} µmol · ${percent(w.lostShare)} of its light misses the mat`}
                  </Type>
                </View>
                <View style={{ alignItems: 'flex-end' }}>
                  <Type kind="strong">{`${umol(w.mean)} µmol`}</Type>
                  <Type kind="small">{watts(w.watts)}</Type>
                  <Type kind="small">{`${between(taken(w, found.ask).nitrate)} ppm`}</Type>
                </View>
              </Row>
            ))}
          </View>
          {severalWords(found.ways) && <Type testID="several">{severalWords(found.ways)}</Type>}
          <Type kind="small">
            {`µmol is reckoned over the whole mat, with every colour of the lamp lit. ppm is the nitrate taken out of ${volumeWords(litres)} in a week if nothing but light limits growth (literature and rule of thumb; your harvests correct it for the lamp that runs). Several small lamps waste more light past the rim and burn less in the middle.`}
          </Type>
        </Section>
      )}
      {open && found && (
        <WaySheet
          way={open}
          taken={taken(open, found.ask)}
          outlooks={outlooks(
            doc,
            bundle.log,
            mats.map((m) => m.harvests),
            taken(open, found.ask),
            nowMs,
          )}
          onClose={() => setOpen(null)}
          hours={found.ask.hours}
          onHang={() => {
            const { alga: of, mat, hours: lit } = found.ask;
            const others = doc.zones.filter((z) => z.id !== zone.id);
            const made = hang(open, doc, others, ZONE_KINDS[zone.kind].lookedAt, lit, newId);
            const commands = [
              ...(spot ? [] : [setSpot(zone.id, algaSpot(newId(), of, mat, mat))]),
              addGroup(zone.id, made.kind, made.plate, made.group),
            ] as const;
            if (run(together(`hang ${made.kind.name}`, ...commands))) {
              changeSettings({ groupId: made.group.id, plateId: made.plate.id });
              setOpen(null);
              router.navigate('/ease');
            }
          }}
        />
      )}
    </Page>
  );
}

/** Several small against one strong, of those that fit: what the spread costs and gives. */
function severalWords(ways: readonly LampWay[]): string | null {
  const one = ways.find((w) => w.lamps.length === 1 && w.standing === 'fits');
  const several = ways.find((w) => w.lamps.length > 1 && w.standing === 'fits');
  if (!one || !several) return null;
  const side = (w: LampWay) =>
    `${w.lamps.length > 1 ? `${w.lamps.length} × ` : 'one '}${w.kind.name.toLowerCase()}: least over mean ${w.uniformity.toFixed(2)}, ${percent(w.lostShare)} lost, ${watts(w.watts)}`;
  return `Several small against one strong: ${side(several)}; ${side(one)}. ${
    several.uniformity > one.uniformity * 1.05
      ? 'Several spread the light better here.'
      : 'Several spread it no better here.'
  }`;
}

function WaySheet({
  way: w,
  hours,
  taken,
  outlooks,
  onHang,
  onClose,
}: {
  way: LampWay;
  /** what it would take out a week */
  taken: Ppm;
  outlooks: readonly Outlook[];
  hours: number;
  onHang: () => void;
  onClose: () => void;
}) {
  return (
    <Sheet title={plural(w.lamps.length, w.kind.name)} onClose={onClose}>
      <Type>{w.words}</Type>
      <Type>
        {`${lengthWords(w.heightCm, true)} over the water${w.tilted ? `, leaning ${w.lamps[0]!.tiltDeg}° from beside the box` : ''}${w.level < 1 ? `, at ${percent(w.level)} of full` : ''}: ${umol(w.mean)} µmol on the mean, ${umol(w.min)} to ${umol(w.max)}; least over mean ${w.uniformity.toFixed(2)}. ${percent(w.lostShare)} of its light never reaches the mat. ${watts(w.watts)} from the wall; ${aboutHours(w.hours)} of ${formatHours(hours)} count as saturating light.`}
      </Type>
      <Type testID="way-taken">
        {`It would take out ${between(taken.nitrate)} ppm nitrate and ${between(taken.phosphate)} ppm phosphate a week. ${standsInFor(outlooks[0]?.share ?? null)}`}
      </Type>
      {outlooks.map((o) => (
        <OutlookWords key={o.nutrient} o={o} />
      ))}
      {w.standing === 'tooStrong' && (
        <Note>
          Too strong for this mat: hang it higher than there is room, screen it, or take another one.
        </Note>
      )}
      <Type kind="small">
        Hung as a draft: nothing is lit by it. Its first step is planned on the next page, so that algae are
        not lit at full length on day one.
      </Type>
      <Button label="Hang it here" kind="filled" wide onPress={onHang} testID="hang-way" />
    </Sheet>
  );
}
