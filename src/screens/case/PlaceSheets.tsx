import { useState } from 'react';

import type { HungLamp, Spot, Zone } from '@/core/case/types';
import { removeGroup, removeLamp, removeSpot, setLamp, setSpot } from '@/state/commands';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { type NeedChoice, NeedField } from '../start/Start';

type Limits = readonly [low: number, high: number];

/** Numbers typed into a sheet: text until it is kept, each with its own error. */
function useNumbers<K extends string>(start: Record<K, number>, limits: Record<K, Limits>) {
  const [texts, setTexts] = useState(
    () => Object.fromEntries(Object.entries(start).map(([k, n]) => [k, String(n)])) as Record<K, string>,
  );
  const [errors, setErrors] = useState<Partial<Record<K, string>>>({});
  const field = (key: K) => ({
    value: texts[key],
    error: errors[key],
    numeric: true,
    unit: 'cm',
    onChange: (text: string) => {
      setTexts((t) => ({ ...t, [key]: text }));
      setErrors((e) => ({ ...e, [key]: undefined }));
    },
  });
  const read = (): Record<K, number> | null => {
    const found: Partial<Record<K, string>> = {};
    const numbers = {} as Record<K, number>;
    for (const key of Object.keys(texts) as K[]) {
      const n = parseNumber(texts[key]);
      const [low, high] = limits[key];
      if (n === null || n < low || n > high) found[key] = `Give ${low} to ${high}.`;
      else numbers[key] = n;
    }
    setErrors(found);
    return Object.keys(found).length === 0 ? numbers : null;
  };
  return { field, read };
}

export function SpotSheet({
  spot,
  zone,
  isNew,
  onClose,
}: {
  spot: Spot;
  zone: Zone;
  isNew: boolean;
  onClose: () => void;
}) {
  const [name, setName] = useState(spot.name);
  const [need, setNeed] = useState<NeedChoice>(spot.need ?? 'none');
  const { tank } = zone;
  const { field, read } = useNumbers(
    { x: spot.xCm, y: spot.yCm, depth: spot.depthCm, open: spot.openShare * 100 },
    { x: [0, tank.lengthCm], y: [0, tank.widthCm], depth: [0, tank.depthCm], open: [0, 100] },
  );
  const keep = () => {
    const n = read();
    if (!n || name.trim() === '') return;
    const changed: Spot = {
      ...spot,
      name: name.trim(),
      xCm: n.x,
      yCm: n.y,
      depthCm: n.depth,
      openShare: n.open / 100,
      need: need === 'none' ? null : need,
    };
    if (run(setSpot(zone.id, changed))) onClose();
  };
  return (
    <Sheet title={isNew ? 'New spot' : spot.name} onClose={onClose}>
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
      <NeedField value={need} onChange={setNeed} />
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
  const [name, setName] = useState(lamp?.name ?? `lamp ${group.lamps.length + 1}`);
  const { field, read } = useNumbers(
    {
      x: lamp?.xCm ?? zone.tank.lengthCm / 2,
      y: lamp?.yCm ?? zone.tank.widthCm / 2,
      height: lamp?.heightCm ?? group.lamps[0]?.heightCm ?? 20,
      turn: lamp?.turnDeg ?? 0,
    },
    {
      x: [-100, zone.tank.lengthCm + 100],
      y: [-100, zone.tank.widthCm + 100],
      height: [1, 300],
      turn: [-180, 180],
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
        }),
      )
    )
      onClose();
  };
  return (
    <Sheet title={lamp ? `Lamp ${lamp.name}` : `Hang one more, ${group.name}`} onClose={onClose}>
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
        <TextField label="Height over the water" {...field('height')} testID="lamp-h" />
        <TextField label="Turned" {...field('turn')} unit="°" />
      </FieldRow>
      <Note>
        Weight overhead: rated anchors and a second tether. Ceiling anchors follow local codes and go to
        licensed people.
      </Note>
      <Type kind="small">A moved lamp counts as a draft until it is typed in on the sheet.</Type>
      <Button label="Keep" kind="filled" wide onPress={keep} testID="keep-lamp" />
      {lamp && (
        <Button
          label={group.lamps.length > 1 ? 'Take this lamp down' : 'Take these lamps down'}
          onPress={() => {
            onClose();
            run(group.lamps.length > 1 ? removeLamp(groupId, lamp.id) : removeGroup(groupId));
          }}
        />
      )}
    </Sheet>
  );
}
