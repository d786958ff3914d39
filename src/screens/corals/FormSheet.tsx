import { useState } from 'react';
import { View } from 'react-native';

import type { Spot, Zone } from '@/core/record/zone';
import type { CoralForm, Region } from '@/core/coral/form';
import { CHROMOS, type ChromoId, PROTEINS, type ProteinId } from '@/core/coral/pigments';
import { editForm } from '@/state/commands/spots';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Stepper } from '@/ui/Button';
import { Choice, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Figure } from '../shared/Figure';

const STEP = 0.05;

/** Edits what a coral is made of, region by region: families, how much, how brown. */
export function FormSheet({
  zone,
  spot,
  form,
  light,
  onClose,
}: {
  zone: Zone;
  spot: Spot;
  form: CoralForm;
  light: Float64Array | null;
  onClose: () => void;
}) {
  const [regionId, setRegionId] = useState(form.regions[0]!.id);
  const [copyId] = useState(newId);
  const region = form.regions.find((r) => r.id === regionId) ?? form.regions[0]!;
  const keep = (next: CoralForm, merge?: string) => run(editForm(zone.id, spot.id, next, copyId, merge));
  const set = (change: Partial<Region>, what: string) =>
    keep(
      { ...form, regions: form.regions.map((r) => (r.id === region.id ? { ...r, ...change } : r)) },
      `form-${region.id}-${what}`,
    );
  return (
    <Sheet title={`What ${spot.name} is made of`} onClose={onClose}>
      <View style={{ flexDirection: 'row', gap: space.l, alignItems: 'center' }}>
        {light && (
          <Figure
            of={{ form }}
            id={spot.id}
            light={light}
            size={140}
            name={`${spot.name} as it is made now`}
          />
        )}
        <View style={{ flex: 1 }}>
          <ValueField
            label="Name of the form"
            value={form.name}
            testID="form-name"
            onCommit={(text) =>
              text.trim() === ''
                ? 'Give it a name.'
                : keep({ ...form, name: text.trim() })
                  ? null
                  : 'Not taken.'
            }
          />
        </View>
      </View>
      <Choice
        label="Region"
        value={region.id}
        onChange={setRegionId}
        options={form.regions.map((r) => ({ value: r.id, label: r.name }))}
      />
      <View>
        <Amount
          name="Brown"
          about="symbionts: 0 bleached, 100 very brown"
          value={region.brown}
          testID="amount-brown"
          onChange={(brown) => set({ brown }, 'brown')}
        />
        <Amount
          name="Pale base"
          about="how light skeleton and tissue are"
          value={region.pale}
          testID="amount-pale"
          onChange={(pale) => set({ pale }, 'pale')}
        />
        {PROTEINS.filter((p) => p.id !== 'chlorophyll').map((p) => (
          <Amount
            key={p.id}
            name={p.name}
            about={`glows at ${p.emissionNm} nm, woken near ${p.peakNm}`}
            value={region.proteins[p.id] ?? 0}
            testID={`amount-${p.id}`}
            onChange={(v) => set({ proteins: withAmount<ProteinId>(region.proteins, p.id, v) }, p.id)}
          />
        ))}
        {CHROMOS.map((c) => (
          <Amount
            key={c.id}
            name={`${c.name} chromoprotein`}
            about={`absorbs at ${c.peakNm} nm, no glow`}
            value={region.chromo[c.id] ?? 0}
            testID={`amount-${c.id}`}
            onChange={(v) => set({ chromo: withAmount<ChromoId>(region.chromo, c.id, v) }, c.id)}
          />
        ))}
      </View>
      <Type kind="small">
        Peaks from published spectra, rounded; amounts are a rule of thumb. A form of the library is copied
        for this coral when you change it. Undo brings everything back.
      </Type>
    </Sheet>
  );
}

const withAmount = <T extends string>(
  all: Partial<Record<T, number>>,
  id: T,
  value: number,
): Partial<Record<T, number>> => {
  const next = { ...all, [id]: value };
  if (value === 0) delete next[id];
  return next;
};

function Amount({
  name,
  about,
  value,
  testID,
  onChange,
}: {
  name: string;
  about: string;
  value: number;
  testID: string;
  onChange: (value: number) => void;
}) {
  return (
    <Row>
      <View style={{ flex: 1, minWidth: 0 }}>
        <Type kind="label">{name}</Type>
        <Type kind="small">{about}</Type>
      </View>
      <View style={{ width: 74 }}>
        <ValueField
          label={`${name}, % of its most`}
          hideLabel
          value={String(Math.round(value * 100))}
          unit="%"
          numeric
          testID={testID}
          onCommit={(text) => {
            const v = parseNumber(text);
            if (v === null || v < 0 || v > 100) return '0 to 100';
            onChange(v / 100);
            return null;
          }}
        />
      </View>
      <Stepper
        name={name}
        atLow={value <= 0}
        atHigh={value >= 1}
        onStep={(sign) => onChange(Math.min(1, Math.max(0, Math.round(value / STEP + sign) * STEP)))}
      />
    </Row>
  );
}
