import { useTyped } from '@/state/typed';
import { indexOfNm } from '@/core/spectrum/grid';
import { useState } from 'react';
import { View } from 'react-native';

import { minutesForDose, runLonger } from '@/core/case/bandHours';
import { doseAt, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { DoseLimit } from '@/core/record/zone';
import { wavelengthColours } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import { formatHours } from '@/core/day/clock';
import { extraDay } from '@/core/day/extras';
import { controlLight } from '@/core/library/colours';
import { BANDS, type BandId } from '@/core/spectrum/bands';
import { dims } from '@/core/spectrum/controls';
import { setZone } from '@/state/commands/waters';
import { takeDay } from '@/state/days';
import { useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { Button, Stepper } from '@/ui/Button';
import { Choice, FieldRow, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Fold, Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

/** Middle of the violet band. */
const VIOLET_NM = 415;

/** A limit that a dose breaks, in words; null when it keeps to it. */
const broken = (dose: number, limit: DoseLimit | undefined): string | null => {
  if (limit?.floor !== null && limit?.floor !== undefined && dose < limit.floor - 1e-9)
    return `▼ below ${limit.floor}`;
  if (limit?.ceiling !== null && limit?.ceiling !== undefined && dose > limit.ceiling + 1e-9)
    return `▲ above ${limit.ceiling}`;
  return null;
};

/** Dose per band at the coral, each against its floor and ceiling; a band can be run longer instead of stronger. */
export function DoseSection({
  light,
  groups,
  open,
}: {
  light: ZoneLight;
  groups: LitGroup[];
  open: boolean;
}) {
  const { zone, spotIndex, lampKind } = useDesk();
  const { plateDim } = usePaper();
  const [limits, setLimits] = useState(false);
  const [longer, setLonger] = useState(false);
  const dose = doseAt(light, groups, spotIndex);
  // what breaks a bound is said also while the doses are folded
  const breaks = BANDS.flatMap((b) => {
    const wrong = broken(dose[b.id], zone.doseLimits?.[b.id]);
    return wrong ? [`${b.name} ${wrong}`] : [];
  });
  return (
    <Fold
      title={`Dose per band, mol a day${breaks.length > 0 ? `: ${breaks.join(', ')}` : ''}`}
      open={open}
      testID="doses-fold"
    >
      <View style={{ flexDirection: 'row', flexWrap: 'wrap' }} testID="doses">
        {BANDS.map((b) => {
          const [r, g, bl] = wavelengthColours()[indexOfNm(Math.round((b.fromNm + b.toNm) / 2))]!;
          const outside = b.id === 'nearUv' || b.id === 'farRed';
          const wrong = broken(dose[b.id], zone.doseLimits?.[b.id]);
          return (
            <View
              key={b.id}
              style={{
                width: '50%',
                flexDirection: 'row',
                flexWrap: 'wrap',
                alignItems: 'center',
                gap: space.s,
                paddingVertical: 3,
                paddingRight: space.l,
              }}
            >
              <View
                style={{
                  width: 11,
                  height: 11,
                  backgroundColor: cssRgb([
                    Math.round(r * plateDim),
                    Math.round(g * plateDim),
                    Math.round(bl * plateDim),
                  ]),
                }}
              />
              <Type kind="small" style={{ flex: 1 }}>
                {outside ? `${b.name}*` : b.name}
              </Type>
              <Type kind="label">{dose[b.id].toFixed(2)}</Type>
              {wrong && (
                <Type kind="small" testID={`limit-${b.id}`}>
                  {wrong}
                </Type>
              )}
            </View>
          );
        })}
        <Type kind="small" style={{ paddingTop: space.xs }}>
          * outside PAR, wholly or from 700 nm on; that part is not in the DLI
        </Type>
      </View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        {dims(lampKind!) && (
          <Button label="Run a colour longer" onPress={() => setLonger(true)} testID="run-longer" />
        )}
        <Button label="Floors and ceilings" onPress={() => setLimits(true)} testID="dose-limits" />
      </View>
      {limits && <LimitsSheet dose={dose} onClose={() => setLimits(false)} />}
      {longer && <LongerSheet light={light} groups={groups} onClose={() => setLonger(false)} />}
    </Fold>
  );
}

function LimitsSheet({ dose, onClose }: { dose: Record<BandId, number>; onClose: () => void }) {
  const { zone } = useDesk();
  const set = (band: BandId, change: Partial<DoseLimit>): string | null => {
    const next = { floor: null, ceiling: null, ...zone.doseLimits?.[band], ...change };
    if (next.floor !== null && next.ceiling !== null && next.ceiling < next.floor)
      return 'The ceiling lies below the floor.';
    return run(setZone(zone.id, { doseLimits: { ...zone.doseLimits, [band]: next } })) ? null : 'Not taken.';
  };
  const commit = (band: BandId, key: keyof DoseLimit) => (text: string) => {
    if (text.trim() === '') return set(band, { [key]: null });
    const v = parseNumber(text);
    return v === null || v < 0 || v > 100 ? 'Give 0 to 100 mol, or nothing.' : set(band, { [key]: v });
  };
  return (
    <Sheet title="Floors and ceilings per band" onClose={onClose}>
      <Type kind="small">
        Your own bounds, mol m⁻² d⁻¹ at the chosen coral; nothing here is known to be right for every coral.
        Empty = none.
      </Type>
      {BANDS.map((b) => (
        <View key={b.id} style={{ gap: space.xs }}>
          <Type kind="label">{`${b.name}, now ${dose[b.id].toFixed(2)}`}</Type>
          <FieldRow>
            <ValueField
              label={`${b.name}, at least`}
              hideLabel
              value={String(zone.doseLimits?.[b.id]?.floor ?? '')}
              unit="at least"
              numeric
              testID={`floor-${b.id}`}
              onCommit={commit(b.id, 'floor')}
            />
            <ValueField
              label={`${b.name}, at most`}
              hideLabel
              value={String(zone.doseLimits?.[b.id]?.ceiling ?? '')}
              unit="at most"
              numeric
              testID={`ceiling-${b.id}`}
              onCommit={commit(b.id, 'ceiling')}
            />
          </FieldRow>
        </View>
      ))}
    </Sheet>
  );
}

/** A colour for more hours at the strength it has: what that does to every band, then taken or not. */
function LongerSheet({
  light,
  groups,
  onClose,
}: {
  light: ZoneLight;
  groups: LitGroup[];
  onClose: () => void;
}) {
  const { doc, zone, group: deskGroup, lampKind, spotIndex, spot } = useDesk();
  const group = deskGroup!;
  const kind = lampKind!;
  const lights = kind.controls.filter((c) => c.kind === 'level');
  // violet first: it is what is most often wanted for longer
  const typed = useTyped(`longer ${group.id}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [id, setId] = typed.of(
    'id',
    [...lights].sort(
      (a, b) =>
        Math.abs(controlLight(kind, a).nm - VIOLET_NM) - Math.abs(controlLight(kind, b).nm - VIOLET_NM),
    )[0]?.id ?? '',
  );
  const [minutes, setMinutes] = typed.of('minutes', 120);
  const lit = groups.find((g) => g.groupId === group.id)!;
  const after = (m: number): LitGroup[] => {
    const threads = runLonger(kind, lit.threads, [id], m);
    const day = extraDay(kind, threads, { capShare: group.capShare, easingShare: 1 }, group.extras, null);
    return groups.map((g) => (g.groupId === group.id ? { ...g, day } : g));
  };
  if (lights.length === 0)
    return (
      <Sheet title="Run a colour longer" onClose={onClose} typed={typed}>
        <Type>This lamp has no colour that can be set alone.</Type>
      </Sheet>
    );
  const [now, then] = [doseAt(light, groups, spotIndex), doseAt(light, after(minutes), spotIndex)];
  const rows = BANDS.filter((b) => Math.abs(then[b.id] - now[b.id]) > 0.005);
  const short = BANDS.find((b) => broken(now[b.id], zone.doseLimits?.[b.id])?.startsWith('▼'));
  const needed = short
    ? minutesForDose((m) => doseAt(light, after(m), spotIndex)[short.id], zone.doseLimits![short.id]!.floor!)
    : null;
  return (
    <Sheet title="Run a colour longer" onClose={onClose} typed={typed}>
      <Type kind="small">
        Its top is held for longer at the strength it has: more of it a day without a higher peak of it.
      </Type>
      <Choice
        label="Colour"
        value={id}
        onChange={setId}
        options={lights.map((c) => ({ value: c.id, label: c.name }))}
      />
      <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between' }}>
        <Type testID="longer-by">{`${formatHours(minutes / 60)} longer, half before and half after`}</Type>
        <Stepper
          name="Longer, 30 min"
          atLow={minutes <= 30}
          atHigh={minutes >= 720}
          onStep={(sign) => setMinutes(Math.min(720, Math.max(30, minutes + 30 * sign)))}
        />
      </View>
      {short && (
        <Button
          label={
            needed === null
              ? `No hours of this colour bring ${short.name} to its floor`
              : `As long as ${short.name} needs: ${formatHours(needed / 60)}`
          }
          disabled={needed === null}
          onPress={() => needed !== null && setMinutes(needed)}
          testID="longer-needed"
        />
      )}
      <View testID="longer-doses">
        {rows.length === 0 && <Type>The colour is dark all day: give it a level first.</Type>}
        {rows.map((b) => (
          <Row key={b.id} style={{ minHeight: 36 }}>
            <Type style={{ flex: 1 }}>{b.name}</Type>
            <Type kind="strong">{`${now[b.id].toFixed(2)} → ${then[b.id].toFixed(2)} mol`}</Type>
          </Row>
        ))}
      </View>
      <Type kind="small">{`At ${spot?.name ?? 'the spot'}. Violet and near UV look dimmer than they are: never look into the lamp.`}</Type>
      <Button
        label="Take this day"
        kind="filled"
        wide
        disabled={rows.length === 0}
        testID="take-longer"
        onPress={() => {
          if (run(takeDay(doc, group, 'a colour runs longer', runLonger(kind, lit.threads, [id], minutes))))
            kept();
        }}
      />
    </Sheet>
  );
}
