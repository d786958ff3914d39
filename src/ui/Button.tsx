import { type ComponentType, memo, useCallback, useEffect, useRef } from 'react';
import { Pressable, View } from 'react-native';

import { font, size, space, themed, usePaper } from './theme';
import { Type } from './Type';

export type Icon = ComponentType<{ size?: number; color?: string; strokeWidth?: number }>;

const useStyles = themed((p) => ({
  button: {
    minHeight: size.target,
    paddingHorizontal: space.l,
    flexDirection: 'row',
    alignItems: 'center',
    justifyContent: 'center',
    gap: space.s,
    borderWidth: 1.5,
    borderColor: p.strong,
    borderRadius: 4,
  },
  filled: { backgroundColor: p.ink, borderColor: p.ink },
  plain: { borderColor: 'transparent', paddingHorizontal: space.s },
  off: { opacity: 0.4 },
  pressed: { backgroundColor: p.line },
  step: {
    width: size.stepper,
    height: size.stepper,
    alignItems: 'center',
    justifyContent: 'center',
    borderWidth: 1,
    borderColor: p.strong,
    borderRadius: 4,
    userSelect: 'none',
  },
  steps: { flexDirection: 'row', gap: space.m },
  sign: { fontSize: 22, lineHeight: 26, fontFamily: font.sans },
}));

interface Props {
  label: string;
  /** spoken name when it differs from the label */
  name?: string;
  onPress: () => void;
  kind?: 'outlined' | 'filled' | 'plain';
  icon?: Icon;
  iconOnly?: boolean;
  disabled?: boolean;
  wide?: boolean;
  testID?: string;
}

export function Button({
  label,
  name,
  onPress,
  kind = 'outlined',
  icon: IconPart,
  iconOnly,
  disabled,
  wide,
  testID,
}: Props) {
  const styles = useStyles();
  const paper = usePaper();
  const colour = kind === 'filled' ? paper.inverse : paper.ink;
  return (
    <Pressable
      role="button"
      aria-label={name ?? label}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      testID={testID}
      style={({ pressed }) => [
        styles.button,
        kind === 'filled' && styles.filled,
        kind === 'plain' && styles.plain,
        wide && { alignSelf: 'stretch', minHeight: 52 },
        disabled && styles.off,
        pressed && kind !== 'filled' && styles.pressed,
      ]}
    >
      {IconPart && <IconPart size={20} color={colour} strokeWidth={1.75} />}
      {!iconOnly && (
        <Type kind="label" style={{ color: colour, fontFamily: font.medium, fontSize: 15 }}>
          {label}
        </Type>
      )}
    </Pressable>
  );
}

const FIRST_REPEAT_MS = 400;
const REPEAT_MS = 90;

/** A 48 px key that repeats while held. Enter and Space press it once. */
export const StepKey = memo(function StepKey({
  sign,
  name,
  onStep,
  disabled,
}: {
  sign: '−' | '+';
  name: string;
  onStep: () => void;
  disabled?: boolean;
}) {
  const styles = useStyles();
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const held = useRef(false);
  const step = useLatest(onStep);
  const stop = useCallback(() => clearTimeout(timer.current), []);
  useEffect(() => stop, [stop]);
  const start = () => {
    held.current = false;
    const again = (wait: number) => {
      timer.current = setTimeout(() => {
        held.current = true;
        step();
        again(REPEAT_MS);
      }, wait);
    };
    again(FIRST_REPEAT_MS);
  };
  return (
    <Pressable
      role="button"
      aria-label={name}
      aria-disabled={disabled}
      disabled={disabled}
      onPressIn={start}
      onPressOut={stop}
      onPress={() => {
        stop();
        if (!held.current) step();
      }}
      style={({ pressed }) => [styles.step, pressed && styles.pressed, disabled && styles.off]}
    >
      <Type kind="strong" style={styles.sign} aria-hidden>
        {sign}
      </Type>
    </Pressable>
  );
});

/** One function for as long as its key is there, which calls what was last drawn with. */
function useLatest<T extends unknown[]>(of: (...args: T) => void): (...args: T) => void {
  const latest = useRef(of);
  useEffect(() => {
    latest.current = of;
  });
  return useCallback((...args: T) => latest.current(...args), []);
}

/** Minus and plus, 12 px apart. */
export function Stepper({
  name,
  onStep,
  atLow,
  atHigh,
}: {
  name: string;
  onStep: (sign: 1 | -1) => void;
  atLow?: boolean;
  atHigh?: boolean;
}) {
  const styles = useStyles();
  const step = useLatest(onStep);
  const down = useCallback(() => step(-1), [step]);
  const up = useCallback(() => step(1), [step]);
  return (
    <View style={styles.steps}>
      <StepKey sign="−" name={`${name} down`} onStep={down} disabled={atLow} />
      <StepKey sign="+" name={`${name} up`} onStep={up} disabled={atHigh} />
    </View>
  );
}
