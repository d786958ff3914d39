import { memo, useEffect, useLayoutEffect, useMemo, useRef } from 'react';

import { atEveryDepth, type Looker, onScreen, paint, thin } from '@/core/portrait/relight';
import { DEPTHS, type PortraitScene } from '@/core/portrait/buffers';

interface Props {
  scene: PortraitScene;
  /** XYZ of every surface under the light of the moment, from `palette` */
  colours: Float32Array;
  looker: Looker;
  width: number;
  height: number;
  /** a finger moves: fewer pixels are enough */
  live?: boolean;
  /** a coral or mat that was touched; null = beside them all */
  onPick?: (id: string | null) => void;
  /** shares of the width that are shown, for two lights beside each other */
  from?: number;
  to?: number;
}

const useDraw = typeof window === 'undefined' ? useEffect : useLayoutEffect;
/** While a finger moves so many pixels are enough, and fewer where they take too long: the finger is waited for by nothing. */
const LIVE_PIXELS = { most: 26_000, least: 9_000, withinMs: 2.5 };
/** What a pixel took of late, ms: a slow device, or lamps by the dozen. */
let pixelMs = 0;
const livePixels = (): number =>
  pixelMs > 0
    ? Math.min(LIVE_PIXELS.most, Math.max(LIVE_PIXELS.least, LIVE_PIXELS.withinMs / pixelMs))
    : LIVE_PIXELS.most;
/** A touch this far from a thing still means it, px of the scene. */
const NEAR_PX = 14;

/** Which coral or mat stands at a place of the picture, given as shares; null = none. */
export function thingAt(scene: PortraitScene, across: number, down: number): string | null {
  const x = Math.round(across * scene.width);
  const y = Math.round(down * scene.height);
  for (let reach = 0; reach <= NEAR_PX; reach += 3)
    for (let j = y - reach; j <= y + reach; j += Math.max(1, reach))
      for (let i = x - reach; i <= x + reach; i += Math.max(1, reach)) {
        if (i < 0 || j < 0 || i >= scene.width || j >= scene.height) continue;
        const { of } = scene.surfaces[Math.floor(scene.cell[j * scene.width + i]! / DEPTHS)]!;
        if (of >= 0) return scene.things[of]!;
      }
  return null;
}

/** A tank, a coral or an alga as it looks: every pixel relit from the scene's buffers. */
export const Portrait = memo(function Portrait({
  scene,
  colours,
  looker,
  width,
  height,
  live = false,
  onPick,
  from = 0,
  to = 1,
}: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const drawn = useRef(false);
  const pixels = useRef<Uint8ClampedArray<ArrayBuffer>>(undefined);
  // small pictures are drawn from fewer pixels of the same scene
  const still = Math.max(1, Math.floor(scene.width / (width * 1.9)));
  // the same for a whole pull, so that it does not change its sharpness under the finger
  const step = useMemo(
    () => (live ? Math.max(still, Math.ceil(Math.sqrt(scene.cell.length / livePixels()))) : still),
    [live, still, scene],
  );
  useDraw(() => {
    const element = canvas.current;
    const context = element?.getContext?.('2d');
    if (!element || !context) return;
    const draw = () => {
      const began = performance.now();
      const shown = atEveryDepth(scene.lamps.length, onScreen(colours, looker));
      const picture = paint(thin(scene, step), shown, pixels.current);
      pixels.current = picture.data;
      if (element.width !== picture.width || element.height !== picture.height) {
        element.width = picture.width;
        element.height = picture.height;
      }
      context.putImageData(new ImageData(picture.data, picture.width, picture.height), 0, 0);
      const took = (performance.now() - began) / picture.data.length;
      if (live) pixelMs = pixelMs > 0 ? 0.9 * pixelMs + 0.1 * 4 * took : 4 * took;
      drawn.current = true;
    };
    if (live || !drawn.current) return draw();
    // a picture at rest follows by a frame: what was pressed is answered, and stored, before it
    let timer: ReturnType<typeof setTimeout> | undefined;
    const frame = requestAnimationFrame(() => (timer = setTimeout(draw)));
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, [scene, colours, looker, step, live]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      onClick={
        onPick &&
        ((e) => {
          const box = e.currentTarget.getBoundingClientRect();
          onPick(thingAt(scene, (e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height));
        })
      }
      style={{
        width,
        height,
        display: 'block',
        cursor: onPick ? 'pointer' : undefined,
        clipPath: from > 0 || to < 1 ? `inset(0 ${(1 - to) * 100}% 0 ${from * 100}%)` : undefined,
      }}
    />
  );
});
