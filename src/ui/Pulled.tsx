import { type Ref, useCallback } from 'react';
import { View, type ViewProps } from 'react-native';
import { GestureDetector, type GestureType } from 'react-native-gesture-handler';

const keep = (event: Event) => event.preventDefault();

/**
 * What a finger pulls: the page neither scrolls nor selects under it. Its moves are also kept from the browser, which else takes a
 * finger lifted in motion for a flick of the page, and for a second ends that flick by the next tap instead of pressing with it.
 */
export function Pulled({ pull, ...view }: ViewProps & { pull: GestureType }) {
  const element: Ref<View> = useCallback((at: View | null) => {
    const target = at as unknown as HTMLElement | null;
    target?.addEventListener('touchmove', keep, { passive: false });
    return () => target?.removeEventListener('touchmove', keep);
  }, []);
  return (
    <GestureDetector gesture={pull} touchAction="none" userSelect="none">
      <View {...view} ref={element} />
    </GestureDetector>
  );
}
