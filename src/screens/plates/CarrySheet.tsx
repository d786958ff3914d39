import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';

import { newPlate } from '@/core/case/plate';
import type { CaseDoc, Plate } from '@/core/record/caseDoc';
import { lostBands } from '@/core/mix/versions';
import { transmission } from '@/core/optics/water';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { Strip } from '@/pieces/Strip';
import { addPlate } from '@/state/commands/plates';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { carryQuery } from '@/state/solvers';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Note, Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { percent } from '@/core/shape/percent';

/** A plate made for another lamp, carried to one that hangs here; what is lost is said before it is taken. */
export function CarrySheet({
  doc,
  plate,
  onClose,
  onTaken,
}: {
  doc: CaseDoc;
  plate: Plate;
  onClose: () => void;
  onTaken: () => void;
}) {
  const { zone, spot } = useDesk();
  const hung = doc.lampKinds.filter((k) => zone.groups.some((g) => g.lampKindId === k.id));
  const [kindId, setKindId] = useState(hung[0]?.id ?? '');
  const target = hung.find((k) => k.id === kindId) ?? hung[0];
  const from = doc.lampKinds.find((k) => k.id === plate.lampKindId)!;
  const source = mixSpectrum(from, plate.mix);
  const through = transmission(zone.water, spot?.depthCm ?? zone.tank.depthCm / 2);
  const carried = useQuery({
    ...carryQuery(plate.id, source, target ?? from, through),
    enabled: target !== undefined,
  });
  if (!target) {
    return (
      <Sheet title={`Take over ${plate.name}`} onClose={onClose}>
        <Type>No lamp hangs over this water yet. Hang one first; the plate can then be carried to it.</Type>
      </Sheet>
    );
  }
  const result = carried.data;
  const behindWater = (s: Float64Array) => s.map((v, i) => v * through[i]!);
  const lost = result ? lostBands(behindWater(source), behindWater(result.spectrum), target) : [];
  const keep = () => {
    const id = newId();
    const rounded = Object.fromEntries(
      Object.entries(result!.mix).map(([c, v]) => [c, Math.round(v * 1000) / 1000]),
    );
    const notes = [`Carried from ${from.name}: match ${percent(Math.max(0, result!.match))}.`, plate.notes]
      .filter(Boolean)
      .join(' ');
    const made = newPlate(id, `${plate.name} on ${target.name}`.slice(0, 120), target.id, rounded, notes);
    if (run(addPlate(made, plate.id))) {
      changeSettings({ plateId: id, groupId: zone.groups.find((g) => g.lampKindId === target.id)!.id });
      onTaken();
    }
  };
  return (
    <Sheet title={`Take over ${plate.name}`} onClose={onClose}>
      {hung.length > 1 && (
        <Choice
          label="To the lamp"
          value={target.id}
          onChange={setKindId}
          options={hung.map((k) => ({ value: k.id, label: k.name }))}
        />
      )}
      {carried.error ? (
        <Note>{`It cannot be carried: ${carried.error.message}.`}</Note>
      ) : !result ? (
        <Type role="status">Fitting its spectrum …</Type>
      ) : (
        <>
          <View style={{ gap: space.xs }}>
            <Type kind="small">{`${plate.name} on ${from.name}`}</Type>
            <Strip spectrum={behindWater(source)} width={320} height={16} name="Spectrum as it was made" />
            <Strip
              spectrum={behindWater(result.spectrum)}
              width={320}
              height={16}
              name="Spectrum on this lamp"
            />
            <Type kind="small">{`on ${target.name}`}</Type>
          </View>
          <Type testID="carry-match">{`Match ${percent(Math.max(0, result.match))} of the spectrum at ${spot?.name ?? 'mid-water'}, at equal PAR.`}</Type>
          <Type kind="small" testID="carry-strength">
            {result.parRatio < 0.97
              ? `This lamp reaches ${percent(result.parRatio)} of its strength before a colour is at full, lamp against lamp: take more lamps, hang lower, or accept less.`
              : 'Its strength is reached, lamp against lamp; height and number of lamps still decide the µmol at your corals.'}
          </Type>
          <View testID="carry-lost">
            {lost.map((l) => (
              <Row key={l.name} style={{ minHeight: 36 }}>
                <Type kind="small" style={{ flex: 1 }}>
                  {l.noEmitter
                    ? `No emitter ${l.rangeNm} nm: ${l.name} goes from ${percent(l.from)} to ${percent(l.to)} of PAR, that share becomes ${l.became}.`
                    : `Less ${l.name} (${l.rangeNm} nm): ${percent(l.from)} → ${percent(l.to)} of PAR, more ${l.became} instead.`}
                </Type>
              </Row>
            ))}
            {lost.length === 0 && <Type kind="small">No band loses more than 1.5 % of PAR.</Type>}
          </View>
          <Button
            label="Keep as a plate of this lamp"
            kind="filled"
            wide
            onPress={keep}
            testID="keep-carried"
          />
          <Note>
            A plate is a mix, not a strength: before it is typed in, the sheet says what your corals would get
            against what they are used to.
          </Note>
        </>
      )}
    </Sheet>
  );
}
