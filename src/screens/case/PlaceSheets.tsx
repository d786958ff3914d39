import { lengthWords, sizeWords } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import type { HungLamp, Mat, Spot, Zone } from '@/core/record/zone';
import { BEARS_LEAST, BEARS_MOST, wantsOf } from '@/core/record/needs';
import { ALGAE, type AlgaId } from '@/core/feeding/algae';
import { moveSpot, removeSpot } from '@/state/commands/spots';
import { removeLamp, setLamp } from '@/state/commands/lamps';
import { takeDown } from '@/state/commands/running';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { isDate, localDate, nowUtcIso, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Fold } from '@/ui/Parts';
import { parseNumber } from '@/ui/parseNumber';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { HangingCautions } from '../shared/Cautions';
import { type NeedChoice, NeedField } from '../shared/NeedField';
import { Shown } from '../sheets';
import { BOTH, useNumbers, wantsOfTexts } from './typed';

/** The light a coral came from as typed: null = not said, undefined = something that makes no sense. */
function cameFromOfTexts(peak: string, hours: string): Spot['cameFrom'] | undefined {
  if (peak.trim() === '' && hours.trim() === '') return null;
  const [p, h] = [parseNumber(peak), parseNumber(hours)];
  if (p === null || h === null || p < 1 || p > 3000 || h < 0.5 || h > 24) return undefined;
  return { peakUmol: p, hours: h };
}

/** A mat as typed: null = not said, undefined = something that makes no sense. */
function matOfTexts(length: string, width: string, tank: Zone['tank']): Mat | null | undefined {
  if (length.trim() === '' && width.trim() === '') return null;
  const [a, b] = [parseNumber(length), parseNumber(width)];
  if (a === null || b === null || a < 1 || b < 1 || a > tank.lengthCm || b > tank.widthCm) return undefined;
  return { lengthCm: a, widthCm: b };
}

export function SpotSheet({ spot, zone, onClose }: { spot: Spot; zone: Zone; onClose: () => void }) {
  const isNew = !zone.spots.some((s) => s.id === spot.id);
  // a new one is known by the place it is offered at: another place is another coral
  const typed = useTyped(
    `spot ${isNew ? `new in ${zone.id} at ${spot.xCm} ${spot.yCm} ${spot.depthCm}` : spot.id}`,
  );
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [name, setName] = typed.of('name', spot.name);
  const [need, setNeed] = typed.of<NeedChoice>('need', spot.need ?? 'none');
  const bundle = useDesk().bundle;
  const today = localDate(useNowMs(), zone.timeZone);
  // a coral that is entered while something runs comes today, until it is said otherwise
  const runs = bundle.history.entries.some((e) => e.zoneId === zone.id);
  const [arrived, setArrived] = typed.of('arrived', spot.arrived ?? (isNew && runs ? today : ''));
  const [peak, setPeak] = typed.of('peak', spot.cameFrom ? String(spot.cameFrom.peakUmol) : '');
  const [hours, setHours] = typed.of('hours', spot.cameFrom ? String(spot.cameFrom.hours) : '');
  const [source, setSource] = typed.of('source', spot.sourceLight);
  const [from, setFrom] = typed.of('from', spot.wants ? String(spot.wants.fromUmol) : '');
  const [to, setTo] = typed.of('to', spot.wants ? String(spot.wants.toUmol) : '');
  const [bears, setBears] = typed.of('bears', spot.bears === undefined ? '' : String(spot.bears));
  const [algaId, setAlgaId] = typed.of<AlgaId | 'unsaid'>('algaId', spot.algaId ?? 'unsaid');
  const [matLength, setMatLength] = typed.of('matLength', spot.mat ? String(spot.mat.lengthCm) : '');
  const [matWidth, setMatWidth] = typed.of('matWidth', spot.mat ? String(spot.mat.widthCm) : '');
  const [problem, setProblem] = useState<{
    wants?: string;
    bears?: string;
    arrived?: string;
    source?: string;
    mat?: string;
  }>({});
  const { tank } = zone;
  const { field, read } = useNumbers(
    typed,
    { x: spot.xCm, y: spot.yCm, depth: spot.depthCm, open: spot.openShare * 100 },
    { x: [0, tank.lengthCm], y: [0, tank.widthCm], depth: [0, tank.depthCm], open: [0, 100] },
  );
  const usual =
    need === 'none'
      ? null
      : wantsOf({ need, wants: null, algaId: algaId === 'unsaid' ? null : algaId }, zone);
  const keep = () => {
    const n = read();
    const wants = wantsOfTexts(from, to);
    const date = arrived.trim();
    const came = cameFromOfTexts(peak, hours);
    const mat = matOfTexts(matLength, matWidth, tank);
    const step = parseNumber(bears);
    const found = {
      ...(need === 'macroalgae' &&
        mat === undefined && {
          mat: `Give both, at least ${lengthWords(1, true)} and at most the box (${sizeWords(tank.lengthCm, tank.widthCm)}); or leave both empty.`,
        }),
      ...(came === undefined && {
        source: 'Give both, 1 to 3000 µmol and 0.5 to 24 hours; or leave both empty.',
      }),
      ...(bears.trim() !== '' &&
        !(step !== null && step >= BEARS_LEAST && step <= BEARS_MOST) && {
          bears: `Give ${BEARS_LEAST} to ${BEARS_MOST}, or leave it empty: then it is as its kind.`,
        }),
      ...(wants === undefined && {
        wants: BOTH,
      }),
      ...(date !== '' && !isDate(date) && { arrived: 'Give a date such as 2026-03-21, or leave it empty.' }),
    };
    setProblem(found);
    if (
      !n ||
      name.trim() === '' ||
      wants === undefined ||
      came === undefined ||
      Object.keys(found).length > 0
    )
      return;
    const { cameFrom: _, algaId: __, mat: ___, bears: ____, ...rest } = spot;
    const changed: Spot = {
      ...rest,
      name: name.trim(),
      xCm: n.x,
      yCm: n.y,
      depthCm: n.depth,
      openShare: n.open / 100,
      need: need === 'none' ? null : need,
      wants: need === 'none' ? null : wants,
      arrived: need === 'none' || date === '' ? null : date,
      sourceLight: source.trim(),
      ...(need !== 'none' && step !== null ? { bears: step } : {}),
      ...(need !== 'none' && came ? { cameFrom: came } : {}),
      ...(need === 'macroalgae' && algaId !== 'unsaid' ? { algaId } : {}),
      ...(need === 'macroalgae' && mat ? { mat } : {}),
    };
    if (run(moveSpot(zone.id, changed, { id: newId(), atUtc: nowUtcIso() }))) kept();
  };
  return (
    <Sheet title={isNew ? 'New spot' : spot.name} onClose={onClose} typed={typed}>
      <TextField
        label="Name"
        value={name}
        onChange={setName}
        error={name.trim() === '' ? 'Give it a name.' : undefined}
      />
      <FieldRow>
        <TextField label="From left" {...field('x')} testID="spot-x" />
        <TextField label="From front" {...field('y')} testID="spot-y" />
        <TextField label="Depth" {...field('depth')} testID="spot-depth" />
      </FieldRow>
      <TextField label="Light that overhangs leave" {...field('open')} unit="%" />
      <NeedField value={need} onChange={setNeed} needs={zone.needs} />
      {need === 'macroalgae' && (
        <>
          <Choice
            label="Which alga"
            value={algaId}
            onChange={setAlgaId}
            options={[
              ...ALGAE.map((a) => ({ value: a.id as AlgaId | 'unsaid', label: a.name })),
              { value: 'unsaid' as const, label: 'not said' },
            ]}
          />
          <FieldRow>
            <TextField
              label="Its mat, along"
              value={matLength}
              onChange={setMatLength}
              unit="cm"
              numeric
              hint="from left to right; empty = a small clump"
              error={problem.mat}
              testID="mat-length"
            />
            <TextField
              label="across"
              value={matWidth}
              onChange={setMatWidth}
              unit="cm"
              numeric
              testID="mat-width"
            />
          </FieldRow>
        </>
      )}
      {need !== 'none' && (
        <>
          <FieldRow>
            <TextField
              label="This one wants, from"
              value={from}
              onChange={setFrom}
              unit="µmol"
              numeric
              hint={`empty = ${usual!.fromUmol}, as its kind`}
              error={problem.wants}
              testID="wants-from"
            />
            <TextField
              label="to"
              value={to}
              onChange={setTo}
              unit="µmol"
              numeric
              hint={`empty = ${usual!.toUmol}`}
              testID="wants-to"
            />
          </FieldRow>
          {!isNew && need !== 'macroalgae' && need !== 'nonPhotosynthetic' && (
            <Shown
              {...{ zone, spot }}
              kind={usual!}
              onTake={(w) => {
                setFrom(String(w.fromUmol));
                setTo(String(w.toUmol));
              }}
              onBears={(ratio) => setBears(String(ratio))}
            />
          )}
          <FieldRow>
            <TextField
              label="It bears at once"
              value={bears}
              onChange={setBears}
              unit="×"
              numeric
              hint="the largest step at the usual ceiling; empty = as its kind"
              error={problem.bears}
              testID="bears"
            />
          </FieldRow>
          <FieldRow>
            <TextField
              label="Arrived on"
              pick="date"
              value={arrived}
              onChange={setArrived}
              hint="year-month-day"
              error={problem.arrived}
              testID="arrived"
            />
            <TextField
              label="Light it came from"
              value={source}
              onChange={setSource}
              hint="lamp, mix, PAR, hours"
              testID="source-light"
            />
          </FieldRow>
          <FieldRow>
            <TextField
              label="There it had, at most"
              value={peak}
              onChange={setPeak}
              unit="µmol"
              numeric
              hint="what the seller says; empty = not known, then it starts low"
              error={problem.source}
              testID="came-peak"
            />
            <TextField
              label="for"
              value={hours}
              onChange={setHours}
              unit="h a day"
              numeric
              testID="came-hours"
            />
          </FieldRow>
        </>
      )}
      <Button label="Keep" kind="filled" wide onPress={keep} testID="keep-spot" />
      {!isNew && (
        <Button
          label="Remove this spot"
          onPress={() => {
            onClose();
            run(removeSpot(zone.id, spot.id));
          }}
        />
      )}
    </Sheet>
  );
}

export function HungLampSheet({
  groupId,
  lamp,
  zone,
  onClose,
}: {
  groupId: string;
  lamp: HungLamp | null;
  zone: Zone;
  onClose: () => void;
}) {
  const group = zone.groups.find((g) => g.id === groupId)!;
  const typed = useTyped(`lamp ${lamp?.id ?? `new in ${groupId}`}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [name, setName] = typed.of('name', lamp?.name ?? `lamp ${group.lamps.length + 1}`);
  const [toward, setToward] = typed.of('toward', String(lamp?.tiltTowardDeg ?? 270));
  const [down, setDown] = useState(false);
  const [level, setLevel] = typed.of('level', lamp?.leanUnsure ? 'unsure' : 'sure');
  const { field, read } = useNumbers(
    typed,
    {
      x: lamp?.xCm ?? zone.tank.lengthCm / 2,
      y: lamp?.yCm ?? zone.tank.widthCm / 2,
      height: lamp?.heightCm ?? group.lamps[0]?.heightCm ?? 20,
      turn: lamp?.turnDeg ?? 0,
      tilt: lamp?.tiltDeg ?? 0,
      screen: Math.round((lamp?.screenShare ?? 1) * 100),
      hours: lamp?.hoursRun ?? 0,
      warmer: lamp?.warmerC ?? 0,
    },
    {
      x: [-100, zone.tank.lengthCm + 100],
      y: [-100, zone.tank.widthCm + 100],
      height: [1, 300],
      turn: [-180, 180],
      tilt: [0, 60],
      screen: [5, 100],
      hours: [0, 200_000],
      warmer: [0, 60],
    },
  );
  const keep = () => {
    const n = read();
    if (!n || name.trim() === '') return;
    if (
      run(
        setLamp(groupId, {
          id: lamp?.id ?? newId(),
          name: name.trim(),
          xCm: n.x,
          yCm: n.y,
          heightCm: n.height,
          turnDeg: n.turn,
          ...(n.tilt > 0 ? { tiltDeg: n.tilt, tiltTowardDeg: Number(toward) } : {}),
          ...(level === 'unsure' ? { leanUnsure: true } : {}),
          ...(n.screen < 100 ? { screenShare: n.screen / 100 } : {}),
          ...(n.hours > 0 ? { hoursRun: n.hours } : {}),
          ...(n.warmer > 0 ? { warmerC: n.warmer } : {}),
        }),
      )
    )
      kept();
  };
  return (
    <Sheet
      title={lamp ? `Lamp ${lamp.name}` : `Hang one more, ${group.name}`}
      onClose={onClose}
      typed={typed}
    >
      <TextField
        label="Name"
        value={name}
        onChange={setName}
        error={name.trim() === '' ? 'Give it a name.' : undefined}
      />
      <FieldRow>
        <TextField label="Middle, from left" {...field('x')} testID="lamp-x" />
        <TextField label="From front" {...field('y')} testID="lamp-y" />
      </FieldRow>
      <FieldRow>
        <TextField label="Height" {...field('height')} testID="lamp-h" />
        <TextField label="Turned" {...field('turn')} unit="°" />
        <TextField label="Tilted" {...field('tilt')} unit="°" testID="lamp-tilt" />
      </FieldRow>
      <Choice
        label="Tilted towards the"
        value={toward}
        onChange={setToward}
        options={[
          { value: '270', label: 'front' },
          { value: '90', label: 'back' },
          { value: '180', label: 'left' },
          { value: '0', label: 'right' },
        ]}
      />
      <TextField
        label="A screen under it lets through"
        {...field('screen')}
        unit="%"
        hint="100 = no screen. A raised diffuser or mesh counts as one; check its share with a reading."
        testID="lamp-screen"
      />
      <Fold title="Older, warmer, or not sure it is level">
        <Choice
          label="How it leans"
          value={level}
          onChange={setLevel}
          options={[
            { value: 'sure', label: 'as said' },
            { value: 'unsure', label: 'not sure' },
          ]}
        />
        <FieldRow>
          <TextField
            label="Hours run"
            {...field('hours')}
            unit="h"
            hint="70 % of the light is left after about 45 000 h (typical, 30 000 to 60 000)."
            testID="lamp-hours"
          />
          <TextField
            label="Warmer by"
            {...field('warmer')}
            unit="°C"
            hint="Than its data say, at full: red loses about 0.5 % a degree, blue 0.15 % (typical)."
            testID="lamp-warmer"
          />
        </FieldRow>
      </Fold>
      <HangingCautions />
      <Type kind="small">A moved lamp counts as a draft until it is typed in on the sheet.</Type>
      <Button label="Keep" kind="filled" wide onPress={keep} testID="keep-lamp" />
      {lamp && !down && <Button label="Take it down" onPress={() => setDown(true)} testID="take-down" />}
      {lamp && down && (
        <View style={{ gap: space.s }} role="group" aria-label={`Take lamp ${lamp.name} down`}>
          <Type>
            What its corals get can be measured only while it hangs: with a reading at each of them the next
            lamp can be set to the same light, without one only to an estimate. Unplug it first, and hold its
            weight before the anchors are loosened.
          </Type>
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            <Button
              label="Read the corals first"
              kind="filled"
              onPress={() => {
                onClose();
                router.navigate('/readings');
              }}
              testID="read-first"
            />
            <Button
              label={group.lamps.length > 1 ? 'Take this lamp down' : 'Take these lamps down'}
              onPress={() => {
                onClose();
                run(
                  group.lamps.length > 1
                    ? removeLamp(groupId, lamp.id)
                    : takeDown(groupId, { id: newId(), atUtc: nowUtcIso() }),
                );
              }}
              testID="take-down-now"
            />
            <Button label="Leave it" onPress={() => setDown(false)} />
          </View>
        </View>
      )}
    </Sheet>
  );
}
