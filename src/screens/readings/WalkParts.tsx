import { router } from 'expo-router';
import { Pressable, View } from 'react-native';
import Delete from 'lucide-react-native/icons/delete';

import type { Lighting } from '@/core/case/walk';
import { Button } from '@/ui/Button';
import { Note, Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { font, space, themed, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { umol, umolExact } from '../shared/words';
import { LitChoice } from './LitChoice';

const KEY = 64;
const useStyles = themed((p) => ({
  pad: { flexDirection: 'row', flexWrap: 'wrap', gap: space.s },
  key: {
    height: KEY,
    alignItems: 'center',
    justifyContent: 'center',
    borderWidth: 1,
    borderColor: p.strong,
    borderRadius: 6,
    userSelect: 'none',
  },
  pressed: { backgroundColor: p.line },
}));
export const KEYS = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0', 'back'] as const;

/** What is lit while readings are taken. */
export function LitSheet({
  lightings: all,
  onClose,
}: {
  lightings: readonly Lighting[];
  onClose: () => void;
}) {
  return (
    <Sheet title="What is lit" onClose={onClose}>
      <LitChoice lightings={all} />
      <Type kind="small">
        Read the plateaus of your day, then each colour alone at full at one or two places: that tells them
        apart. A plate by hand also stands for an interlude, such as photograph light.
      </Type>
      <Note kind="eyes">A single colour at full can be far stronger than the day: shade your eyes.</Note>
      <Type kind="small">
        Bring the lamp back to its day when you are done: a colour left alone is a change the corals feel.
      </Type>
    </Sheet>
  );
}

/** All places of the walk with what was read there, and what follows. */
export function StopsSheet<T extends { name: string }>({
  title,
  stops,
  shown,
  onGo,
  onOther,
  onClose,
}: {
  title: string;
  stops: readonly T[];
  /** what was read at one under this light; null = nothing */
  shown: (stop: T) => string | null;
  onGo: (index: number) => void;
  onOther: () => void;
  onClose: () => void;
}) {
  const leaving = (then: () => void) => () => {
    onClose();
    then();
  };
  return (
    <Sheet title={title} onClose={onClose}>
      <View>
        {stops.map((s, i) => (
          <Row key={`${s.name} ${i}`} name={`Go to ${s.name}`} onPress={leaving(() => onGo(i))}>
            <Type kind="label" style={{ flex: 1 }}>
              {s.name}
            </Type>
            <Type kind="small">{shown(s) ?? 'not read'}</Type>
          </Row>
        ))}
      </View>
      <Button label="Read under another light" wide onPress={leaving(onOther)} />
      <Button
        label="See what the readings tell"
        kind="filled"
        wide
        testID="finish-session"
        onPress={leaving(() => router.navigate('/calibration'))}
      />
    </Sheet>
  );
}

/** A reading far from what was expected: what else may be lit, or it is as said. */
export function Doubted({
  said,
  likely,
  value,
  width,
  onLit,
  onKeep,
}: {
  said: string;
  likely: readonly { id: string; label: string; shown: number }[];
  value: number;
  width: number;
  onLit: (id: string) => void;
  onKeep: () => void;
}) {
  return (
    <View style={{ gap: space.s, width }} testID="walk-doubt">
      <Type kind="strong" role="alert">
        {said}
      </Type>
      {likely.map((l) => (
        <Button
          key={l.id}
          label={`${l.label}: about ${umol(l.shown)}`}
          wide
          onPress={() => onLit(l.id)}
          testID={`likely-${l.id}`}
        />
      ))}
      <Button label={`It is as said: keep ${umolExact(value)}`} wide onPress={onKeep} testID="keep-doubted" />
    </View>
  );
}

/** Big digits for wet fingers. */
export function Keypad({ width, onPress }: { width: number; onPress: (key: (typeof KEYS)[number]) => void }) {
  const styles = useStyles();
  const paper = usePaper();
  const keyWidth = (width - 2 * space.s) / 3;
  return (
    <View style={[styles.pad, { width }]}>
      {KEYS.map((k) => (
        <Pressable
          key={k}
          role="button"
          aria-label={k === 'back' ? 'Delete the last digit' : k === '.' ? 'Decimal point' : k}
          onPress={() => onPress(k)}
          testID={`key-${k}`}
          style={({ pressed }) => [styles.key, { width: keyWidth }, pressed && styles.pressed]}
        >
          {k === 'back' ? (
            <Delete size={26} color={paper.ink} strokeWidth={1.6} />
          ) : (
            <Type style={{ fontSize: 26, fontFamily: font.medium }}>{k}</Type>
          )}
        </Pressable>
      ))}
    </View>
  );
}

/** A key as high as a digit's. */
export function BigKey({
  label,
  onPress,
  filled,
  disabled = false,
  testID,
}: {
  label: string;
  onPress: () => void;
  filled?: boolean;
  disabled?: boolean;
  testID: string;
}) {
  const styles = useStyles();
  const paper = usePaper();
  return (
    <Pressable
      role="button"
      aria-label={label}
      onPress={onPress}
      disabled={disabled}
      testID={testID}
      style={({ pressed }) => [
        styles.key,
        { flex: 1, opacity: disabled ? 0.5 : 1 },
        filled && { backgroundColor: paper.ink, borderColor: paper.ink },
        pressed && !filled && styles.pressed,
      ]}
    >
      <Type style={{ fontSize: 18, fontFamily: font.medium, color: filled ? paper.inverse : paper.ink }}>
        {label}
      </Type>
    </Pressable>
  );
}
