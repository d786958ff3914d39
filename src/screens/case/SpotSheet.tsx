import { lengthWords, sizeWords } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { useState } from 'react';
import type { Mat, Spot, Zone } from '@/core/record/zone';
import { BEARS_LEAST, BEARS_MOST, wantsOf } from '@/core/record/needs';
import { ALGAE, type AlgaId } from '@/core/feeding/algae';
import { moveSpot, removeSpot } from '@/state/commands/spots';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { isDate, localDate, nowUtcIso, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Sheet } from '@/ui/Sheet';
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
    <Sheet
      title={!isNew ? spot.name : spot.need === 'macroalgae' ? 'New algae' : 'New spot'}
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
