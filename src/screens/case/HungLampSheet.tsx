import { useTyped } from '@/state/typed';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import type { HungLamp, Zone } from '@/core/record/zone';
import { removeLamp, setLamp } from '@/state/commands/lamps';
import { takeDown } from '@/state/commands/running';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { nowUtcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { Fold } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { HangingCautions } from '../shared/Cautions';
import { useNumbers } from './typed';

/** One lamp as it hangs: where, how high, turned, tilted, behind what; taken down, or hung anew. */
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
            unit="°C warmer"
            hint="Than its data say, at full: red loses about 0.5 % for each degree Celsius, blue 0.15 % (typical)."
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
