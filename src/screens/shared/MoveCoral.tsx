import { lengthWords } from '@/core/shape/units';
import { useState } from 'react';
import { View } from 'react-native';

import type { PortraitScene } from '@/core/portrait/buffers';
import { placeAt, seenAt, viewOf } from '@/core/portrait/view';
import { moveSpot } from '@/state/commands/spots';
import type { Desk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { nowUtcIso } from '@/state/time';
import { type Pull, Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { size, space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

/** A finger rests so long on a coral before it takes it along, ms: a page that is scrolled moves nothing. */
const REST_MS = 250;

const useStyles = themed((p) => ({
  over: { position: 'absolute' },
  ring: { position: 'absolute', borderWidth: 2, borderColor: p.paper, borderRadius: 999 },
  said: {
    position: 'absolute',
    left: space.s,
    bottom: space.s,
    paddingHorizontal: space.s,
    backgroundColor: p.paper,
  },
}));

const within = (v: number, low: number, high: number) => Math.min(high, Math.max(low, Math.round(v)));

/** The chosen coral of a picture can be taken elsewhere: at its own distance from the pane, to the sides, up and down. */
export function MoveCoral({
  desk,
  scene,
  width,
  height,
}: {
  desk: Desk;
  scene: PortraitScene;
  width: number;
  height: number;
}) {
  const styles = useStyles();
  const { zone, spot } = desk;
  const [held, setHeld] = useState<{ x: number; z: number } | null>(null);
  const box = spot && scene.boxes[scene.things.indexOf(spot.id)];
  if (!spot || !box) return null;
  const scale = width / scene.width;
  const half = (v: number) => Math.max(size.target / 2, v * scale);
  const [left, top] = [box.x * scale - half(box.halfX), box.y * scale - half(box.halfY)];
  const view = viewOf(zone.tank, width, height);
  const clamped = (x: number, z: number) => ({
    x: within(x, 0, zone.tank.lengthCm),
    z: within(z, 1, zone.tank.depthCm),
  });
  const put = (x: number, z: number) => {
    const to = clamped(x, z);
    setHeld(null);
    if (to.x === Math.round(spot.xCm) && to.z === Math.round(spot.depthCm)) return;
    run(moveSpot(zone.id, { ...spot, xCm: to.x, depthCm: to.z }, { id: newId(), atUtc: nowUtcIso() }));
  };
  const home = seenAt(view, spot.xCm, spot.yCm, spot.depthCm);
  const pulled = (dx: number, dy: number) => {
    const at = placeAt(view, home.x + dx, home.y + dy, spot.yCm);
    return clamped(at.x, at.z);
  };
  const pull: Pull = {
    onBegin: () => setHeld({ x: spot.xCm, z: spot.depthCm }),
    onUpdate: (e) => setHeld(pulled(e.translationX, e.translationY)),
    onEnd: (e) => {
      const to = pulled(e.translationX, e.translationY);
      put(to.x, to.z);
    },
    onFinalize: () => setHeld(null),
  };
  const at = held && seenAt(view, held.x, spot.yCm, held.z);
  const words = (p: { x: number; z: number }) =>
    `${lengthWords(p.x)} from the left, ${lengthWords(p.z)} deep`;
  return (
    <>
      <Pulled
        pull={pull}
        restMs={REST_MS}
        style={[styles.over, { left, top, width: 2 * half(box.halfX), height: 2 * half(box.halfY) }]}
        testID="move-coral"
      >
        <SliderGrip
          name={`${spot.name}: arrows move it in the tank`}
          now={Math.round(spot.xCm)}
          max={Math.round(zone.tank.lengthCm)}
          step={1}
          valueText={words({ x: spot.xCm, z: spot.depthCm })}
          onChange={(x) => put(x, spot.depthCm)}
          onCross={(by) => put(spot.xCm, spot.depthCm - by)}
          left={home.x - left - size.target / 2}
          top={home.y - top - size.target / 2}
          testID="move-coral-keys"
        />
      </Pulled>
      <View pointerEvents="none" style={[styles.over, { left: 0, top: 0, width, height }]}>
        {at && (
          <>
            <View style={[styles.ring, { left: at.x - 14, top: at.y - 14, width: 28, height: 28 }]} />
            <View style={styles.said} role="status">
              <Type kind="small">{`${spot.name}: ${words(held)}`}</Type>
            </View>
          </>
        )}
      </View>
    </>
  );
}
