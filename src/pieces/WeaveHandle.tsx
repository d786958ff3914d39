import { memo, type RefObject, useRef } from 'react';
import { View } from 'react-native';

import { formatTime, isoTime, shortTime } from '@/core/day/clock';
import { DAY_MINUTES, wrapMinute } from '@/core/shape/ring';
import { type Pull, Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { font, size, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { pullTo } from './pull';
import type { WeaveProps, WeaveThread } from './Weave';
import { HANDLE } from './weaveShape';

const LOCK_PX = 7;

const useStyles = themed((p) => ({
  handle: {
    position: 'absolute',
    top: 0,
    width: HANDLE.width - 4,
    height: HANDLE.height,
    borderWidth: 1.25,
    borderColor: p.ink,
    borderRadius: 4,
    backgroundColor: p.raised,
    alignItems: 'center',
    justifyContent: 'center',
  },
  chosen: { backgroundColor: p.ink },
  chosenText: { color: p.paper },
}));

/** A touch that ends here makes no click: it would land on the sheet that has just opened under the finger. */
const NO_CLICK = {
  onTouchEnd: (event: { cancelable?: boolean; preventDefault: () => void }) => {
    if (event.cancelable !== false) event.preventDefault();
  },
} as object;

export interface HandleProps extends Omit<WeaveThread, 'umol' | 'told'> {
  /** µmol as it is said */
  umol: string;
  chosen: boolean;
  centre: number;
  /** from one handle to the next, px */
  pitch: number;
  top: number;
  minutesPerPx: number;
  /** the weave's newest props, so that a handle is redrawn only when its own thread changes */
  weave: RefObject<WeaveProps>;
}

/** A thread's handle: slide for time, pull for strength, tap to open. */
export const Handle = memo(function Handle({
  id,
  minute,
  strengthShare,
  umol,
  chosen,
  centre,
  pitch,
  top,
  minutesPerPx,
  weave,
}: HandleProps) {
  const styles = useStyles();
  const held = useRef({
    axis: null as 'time' | 'strength' | null,
    minute: 0,
    strength: 0,
    lastY: 0,
    down: false,
  });
  const narrow = pitch < HANDLE.width - 4;
  const taken = (at: number) => weave.current.threads.some((t) => t.id !== id && t.minute === at);
  const wrap = (at: number) => wrapMinute(at);
  const pull: Pull = {
    onBegin: () => {
      held.current = { axis: null, minute, strength: strengthShare, lastY: 0, down: true };
      weave.current.onSelect(id);
    },
    onUpdate: (e) => {
      const state = held.current;
      if (state.axis === null) {
        if (Math.max(Math.abs(e.translationX), Math.abs(e.translationY)) < LOCK_PX) return;
        state.axis = Math.abs(e.translationX) > Math.abs(e.translationY) ? 'time' : 'strength';
        state.lastY = e.translationY;
      }
      if (state.axis === 'time') {
        const to = wrap(
          Math.round((state.minute + e.translationX * minutesPerPx) / (weave.current.snapMin ?? 5)) *
            (weave.current.snapMin ?? 5),
        );
        if (!taken(to)) weave.current.onMove(id, to, strengthShare);
      } else {
        state.strength = pullTo(state.strength, state.lastY - e.translationY, e.translationX);
        state.lastY = e.translationY;
        weave.current.onMove(id, minute, Math.round(state.strength * 100) / 100);
      }
    },
    onFinalize: () => {
      const { axis, down } = held.current;
      held.current.down = false;
      if (axis !== null) weave.current.onRelease();
      else if (down) weave.current.onOpen(id);
    },
  };
  return (
    <>
      <Pulled
        pull={pull}
        {...NO_CLICK}
        style={[
          styles.handle,
          chosen && styles.chosen,
          { width: pitch - 4, left: centre - pitch / 2 + 2, top },
        ]}
        testID={`thread-${isoTime(minute)}`}
      >
        <Type kind="label" style={[{ fontFamily: font.bold, lineHeight: 17 }, chosen && styles.chosenText]}>
          {narrow ? shortTime(minute).split(':')[0] : shortTime(minute)}
        </Type>
        <Type kind="small" style={[{ lineHeight: 15 }, chosen && styles.chosenText]}>
          {narrow ? shortTime(minute).split(':')[1] : umol}
        </Type>
      </Pulled>
      <View style={{ pointerEvents: 'none' }}>
        <SliderGrip
          name={`Thread at ${formatTime(minute)}`}
          now={minute}
          min={0}
          max={DAY_MINUTES - 1}
          step={weave.current.snapMin ?? 5}
          valueText={`${formatTime(minute)}, strength ${Math.round(strengthShare * 100)} %, ${umol === 'dark' ? umol : `${umol} µmol`}`}
          onFocus={() => weave.current.onSelect(id)}
          onChange={(to) => !taken(to) && weave.current.onStep(id, to, strengthShare)}
          onCross={(by) =>
            weave.current.onStep(
              id,
              minute,
              Math.min(1, Math.max(0, Math.round(strengthShare * 100 + by) / 100)),
            )
          }
          onOpen={() => weave.current.onOpen(id)}
          left={centre - size.target / 2}
          top={top}
        />
      </View>
    </>
  );
});
