import { createContext, type Ref, useCallback, useContext, useLayoutEffect, useMemo, useRef } from 'react';
import { View, type ViewProps } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';

/** Where a finger is, px: in what it pulls, and from where it began. */
export interface Finger {
  x: number;
  y: number;
  translationX: number;
  translationY: number;
}

/** What a finger's pull does. */
export interface Pull {
  onBegin?: (at: Finger) => void;
  onUpdate?: (at: Finger) => void;
  /** it lifts after a pull */
  onEnd?: (at: Finger) => void;
  /** it lifts, or is taken away */
  onFinalize?: (at: Finger) => void;
}

interface Props extends ViewProps {
  pull: Pull;
  /** it does not hold before the finger has rested so long */
  restMs?: number;
  off?: boolean;
}

const Content = createContext<ViewProps>({});
const keep = (event: Event) => event.preventDefault();

/**
 * What a finger pulls: the page neither scrolls nor selects under it. Its moves are also kept from the browser, which else takes a
 * finger lifted in motion for a flick of the page, and for a second ends that flick by the next tap instead of pressing with it. The
 * gesture is set up once and asks for the newest `pull`: what moves under a finger is drawn anew in every frame.
 */
export function Pulled({ pull, restMs = 0, off = false, ...view }: Props) {
  const latest = useRef(pull);
  useLayoutEffect(() => {
    latest.current = pull;
  });
  const detector = useMemo(() => {
    const gesture = Gesture.Pan().shouldCancelWhenOutside(false).enabled(!off).runOnJS(true);
    const begin = (at: Finger) => latest.current.onBegin?.(at);
    if (restMs > 0) gesture.activateAfterLongPress(restMs).onStart(begin);
    else gesture.minDistance(0).onBegin(begin);
    gesture
      .onUpdate((at) => latest.current.onUpdate?.(at))
      .onEnd((at) => latest.current.onEnd?.(at))
      .onFinalize((at) => latest.current.onFinalize?.(at));
    return (
      <GestureDetector gesture={gesture} touchAction="none" userSelect="none">
        <Held />
      </GestureDetector>
    );
  }, [restMs, off]);
  return <Content value={view}>{detector}</Content>;
}

function Held() {
  const element: Ref<View> = useCallback((at: View | null) => {
    const target = at as unknown as HTMLElement | null;
    target?.addEventListener('touchmove', keep, { passive: false });
    return () => target?.removeEventListener('touchmove', keep);
  }, []);
  return <View {...useContext(Content)} ref={element} />;
}
