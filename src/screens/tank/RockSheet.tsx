import { lengthFigure, lengthWords, sizeWords } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { useState } from 'react';
import { View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';

import type { Zone } from '@/core/record/zone';
import type { Solid, Walls } from '@/core/optics/tank';
import { setZone } from '@/state/commands/waters';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { useNumbers } from '../case/typed';

type WallLook = 'clean' | 'grown' | 'painted';
/** Factor on a pane's own reflectance. Mark: rule of thumb. */
const WALLS: Record<WallLook, number> = { clean: 1, grown: 0.4, painted: 0 };
const lookOf = (factor: number): WallLook => (factor > 0.7 ? 'clean' : factor > 0.15 ? 'grown' : 'painted');
/** Diffuse reflectance of floors. Mark: rule of thumb. */
const FLOORS = { sand: 0.4, dark: 0.2, bare: 0.1 } as const;
/** RMS slope of the surface. Mark: rule of thumb. */
const RIPPLES = { still: 0, usual: 0.05, strong: 0.12 } as const;
const nearest = <K extends string>(table: Record<K, number>, value: number): K =>
  (Object.keys(table) as K[]).reduce((a, b) =>
    Math.abs(table[b] - value) < Math.abs(table[a] - value) ? b : a,
  );

/** What bounds the light: panes, floor, lid, surface, rock. */
export function RockSheet({ zone, onClose }: { zone: Zone; onClose: () => void }) {
  const { tank } = zone;
  const [editing, setEditing] = useState<{ solid: Solid; isNew: boolean } | null>(null);
  const change = (part: Partial<Zone['tank']>) => run(setZone(zone.id, { tank: { ...tank, ...part } }));
  if (editing)
    return (
      <SolidSheet
        zoneId={zone.id}
        {...editing}
        tank={tank}
        onKeep={(solid) =>
          change({
            solids: editing.isNew
              ? [...tank.solids, solid]
              : tank.solids.map((s) => (s.id === solid.id ? solid : s)),
          })
        }
        onRemove={() => change({ solids: tank.solids.filter((s) => s.id !== editing.solid.id) })}
        onClose={() => setEditing(null)}
      />
    );
  return (
    <Sheet title="Walls and rock" onClose={onClose}>
      <Section title="Panes">
        {(['left', 'right', 'front', 'back'] as (keyof Walls)[]).map((side) => (
          <Choice
            key={side}
            label={side.replace(/^./, (c) => c.toUpperCase())}
            value={lookOf(tank.walls[side])}
            onChange={(look) => change({ walls: { ...tank.walls, [side]: WALLS[look] } })}
            options={[
              { value: 'clean', label: 'clean glass' },
              { value: 'grown', label: 'overgrown' },
              { value: 'painted', label: 'painted or covered' },
            ]}
          />
        ))}
      </Section>
      <Choice
        label="Floor"
        value={nearest(FLOORS, tank.floorReflectance)}
        onChange={(floor) => change({ floorReflectance: FLOORS[floor] })}
        options={[
          { value: 'sand', label: 'light sand' },
          { value: 'dark', label: 'dark sand' },
          { value: 'bare', label: 'bare glass' },
        ]}
      />
      <ValueField
        label="Light that a lid or screen leaves"
        value={String(Math.round(tank.lidShare * 100))}
        unit="%"
        numeric
        hint="100 = open. A net takes about 10, a glass lid about 10, a salty one 25 and more (rule of thumb)."
        testID="lid"
        onCommit={(text) => {
          const n = parseNumber(text);
          if (n === null || n < 0 || n > 100) return 'Give 0 to 100 %.';
          return change({ lidShare: n / 100 }) ? null : 'Not taken.';
        }}
      />
      <Choice
        label="Surface"
        value={nearest(RIPPLES, zone.rippleSlope)}
        onChange={(flow) => run(setZone(zone.id, { rippleSlope: RIPPLES[flow] }))}
        options={[
          { value: 'still', label: 'still' },
          { value: 'usual', label: 'usual ripples' },
          { value: 'strong', label: 'strong ripples' },
        ]}
      />
      <Section title="Rock and steps">
        {tank.solids.length === 0 && (
          <Type quiet>None. Rock casts shadows; a stepped floor brings part of it nearer the light.</Type>
        )}
        <View>
          {tank.solids.map((s) => (
            <Row key={s.id} onPress={() => setEditing({ solid: s, isNew: false })} name={`Edit ${s.name}`}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{s.name}</Type>
                <Type kind="small">{`${SHAPES[s.shape]}, ${sizeWords(s.lengthCm, s.widthCm)}, from ${lengthFigure(s.topCm, true)} to ${lengthWords(s.bottomCm, true)} deep`}</Type>
              </View>
            </Row>
          ))}
        </View>
        <Button
          label="Add rock or a step"
          icon={Plus}
          testID="add-rock"
          onPress={() =>
            setEditing({
              isNew: true,
              solid: {
                id: newId(),
                name: `Rock ${tank.solids.length + 1}`,
                shape: 'mound',
                xCm: Math.round(tank.lengthCm / 2),
                yCm: Math.round(tank.widthCm / 2),
                lengthCm: Math.round(tank.lengthCm / 4),
                widthCm: Math.round(tank.widthCm / 3),
                topCm: Math.round(tank.depthCm / 2),
                bottomCm: tank.depthCm,
              },
            })
          }
        />
      </Section>
    </Sheet>
  );
}

const SHAPES = { block: 'block', mound: 'mound', step: 'step of the floor' } as const;

function SolidSheet({
  solid,
  isNew,
  tank,
  zoneId,
  onKeep,
  onRemove,
  onClose,
}: {
  solid: Solid;
  isNew: boolean;
  tank: Zone['tank'];
  zoneId: string;
  onKeep: (solid: Solid) => boolean;
  onRemove: () => void;
  onClose: () => void;
}) {
  const typed = useTyped(`rock ${isNew ? `new in ${zoneId}` : solid.id}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [name, setName] = typed.of('name', solid.name);
  const [shape, setShape] = typed.of('shape', solid.shape);
  const [wrong, setWrong] = useState<string | null>(null);
  const { field, read } = useNumbers(
    typed,
    {
      x: solid.xCm,
      y: solid.yCm,
      length: solid.lengthCm,
      width: solid.widthCm,
      top: solid.topCm,
      bottom: solid.bottomCm,
    },
    {
      x: [0, tank.lengthCm],
      y: [0, tank.widthCm],
      length: [1, tank.lengthCm],
      width: [1, tank.widthCm],
      top: [0, tank.depthCm - 1],
      bottom: [1, tank.depthCm],
    },
  );
  const keep = () => {
    const n = read();
    if (!n || name.trim() === '') return;
    const bottom = shape === 'step' ? tank.depthCm : n.bottom;
    if (bottom <= n.top) return setWrong('Its foot lies above its top: give a larger depth for the foot.');
    if (
      onKeep({
        ...solid,
        name: name.trim(),
        shape,
        xCm: n.x,
        yCm: n.y,
        lengthCm: n.length,
        widthCm: n.width,
        topCm: n.top,
        bottomCm: bottom,
      })
    )
      kept();
  };
  return (
    <Sheet title={isNew ? 'Rock or a step' : solid.name} onClose={onClose} typed={typed}>
      <TextField
        label="Name"
        value={name}
        onChange={setName}
        error={name.trim() === '' ? 'Give it a name.' : undefined}
      />
      <Choice
        label="Shape"
        value={shape}
        onChange={setShape}
        options={[
          { value: 'mound', label: 'mound' },
          { value: 'block', label: 'block or ledge' },
          { value: 'step', label: 'step of the floor' },
        ]}
      />
      <FieldRow>
        <TextField label="Middle, from left" {...field('x')} testID="rock-x" />
        <TextField label="From front" {...field('y')} />
      </FieldRow>
      <FieldRow>
        <TextField label="Length" {...field('length')} />
        <TextField label="Width" {...field('width')} />
      </FieldRow>
      <FieldRow>
        <TextField label="Top, depth" {...field('top')} testID="rock-top" />
        {shape !== 'step' && <TextField label="Foot, depth" {...field('bottom')} />}
      </FieldRow>
      {wrong && (
        <Type kind="label" role="alert">
          {`▲ ${wrong}`}
        </Type>
      )}
      <Button label="Keep" kind="filled" wide onPress={keep} testID="keep-rock" />
      {!isNew && (
        <Button
          label="Remove it"
          onPress={() => {
            onRemove();
            onClose();
          }}
        />
      )}
    </Sheet>
  );
}
