import { memo } from 'react';
import { View } from 'react-native';

import { size } from './theme';

interface Props {
  /** given back to the callbacks, so that one callback can serve many grips */
  id?: string;
  name: string;
  now: number;
  valueText: string;
  step: number;
  min?: number;
  max?: number;
  onChange: (now: number, id?: string) => void;
  onFocus?: (id: string) => void;
  /** what up and down change when left and right change the value itself */
  onCross?: (by: number) => void;
  /** Enter */
  onOpen?: () => void;
  left: number;
  top: number;
  testID?: string;
}

const COARSE = 10;

/** The keyboard's and the screen reader's hold on a grip that is drawn elsewhere. Arrows step, Shift goes coarse. */
export const SliderGrip = memo(function SliderGrip({
  id,
  name,
  now,
  valueText,
  step,
  min = 0,
  max = 100,
  onChange,
  onFocus,
  onCross,
  onOpen,
  left,
  top,
  testID,
}: Props) {
  const onKeyDown = (event: {
    key: string;
    shiftKey: boolean;
    preventDefault: () => void;
    stopPropagation: () => void;
  }) => {
    const by = step * (event.shiftKey ? COARSE : 1);
    const moves: Record<string, number> = {
      ArrowUp: now + by,
      ArrowRight: now + by,
      ArrowDown: now - by,
      ArrowLeft: now - by,
      PageUp: now + step * COARSE,
      PageDown: now - step * COARSE,
      Home: min,
      End: max,
    };
    const cross = onCross && { ArrowUp: 1, ArrowDown: -1 }[event.key];
    const next = moves[event.key];
    const opens = event.key === 'Enter' && onOpen;
    if (next === undefined && !opens) return;
    event.preventDefault();
    event.stopPropagation();
    if (opens) return onOpen();
    if (cross) return onCross(cross * (event.shiftKey ? COARSE : 1));
    if (next === undefined) return;
    onChange(Math.min(max, Math.max(min, next)), id);
  };
  return (
    <View
      role="slider"
      aria-label={name}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuenow={now}
      aria-valuetext={valueText}
      tabIndex={0}
      testID={testID}
      onFocus={() => onFocus?.(id ?? '')}
      {...({ onKeyDown } as object)}
      style={{
        position: 'absolute',
        left,
        top,
        width: size.target,
        height: size.target,
        borderRadius: size.target / 2,
      }}
    />
  );
});
