import { createContext, type ReactNode, useContext, useEffect, useId, useRef, useState } from 'react';
import { Pressable, TextInput, View } from 'react-native';
import Square from 'lucide-react-native/icons/square';
import SquareCheck from 'lucide-react-native/icons/square-check-big';

import { PickKey } from './PickKey';
import { shownAs } from './shown';
import { font, size, space, themed, usePaper } from './theme';
import { Type } from './Type';
import { setUnsaid, unsaid } from './unsaid';

const useStyles = themed((p) => ({
  field: { gap: space.xs, flexGrow: 1, flexShrink: 1, minWidth: 0 },
  // as wide as its neighbours, whatever its unit
  even: { flexBasis: 0 },
  box: {
    flexDirection: 'row',
    alignItems: 'center',
    minHeight: size.stepper,
    borderWidth: 1,
    borderColor: p.strong,
    borderRadius: 4,
    backgroundColor: p.raised,
    paddingHorizontal: space.m,
    gap: space.s,
  },
  bad: { borderColor: p.ink, borderWidth: 2 },
  input: {
    flex: 1,
    minWidth: 24,
    fontFamily: font.medium,
    fontSize: 17,
    color: p.ink,
    paddingVertical: space.s,
    fontVariant: ['tabular-nums'],
  },
  choices: { flexDirection: 'row', flexWrap: 'wrap', gap: space.s },
  choice: {
    // a long one takes a second line, not the edge of the page
    maxWidth: '100%',
    paddingVertical: space.xs,
    minHeight: size.target,
    justifyContent: 'center',
    paddingHorizontal: space.m,
    borderWidth: 1,
    borderColor: p.strong,
    borderRadius: 4,
  },
  chosen: { backgroundColor: p.ink, borderColor: p.ink },
}));

/** Whether a field stands in a row of fields. */
const Beside = createContext(false);

interface TextFieldProps {
  /** lines that are seen of a longer text; absent = it is one line */
  rows?: number;
  label: string;
  /** the label is only spoken */
  hideLabel?: boolean;
  value: string;
  onChange: (text: string) => void;
  onBlur?: () => void;
  onSubmit?: () => void;
  unit?: string;
  error?: string;
  hint?: string;
  numeric?: boolean;
  /** the device's picker stands beside the text; dates are also read in the device's own order */
  pick?: 'date' | 'time';
  /** something was picked; without it it counts as typed */
  onPick?: (text: string) => void;
  /** has the keyboard as soon as it is there */
  autoFocus?: boolean;
  /** keys that are not typed: @returns whether it was taken */
  onKey?: (key: string) => boolean;
  testID?: string;
}

/** A labelled line of text; the error stands under it and is read out with it. */
export function TextField({
  label,
  hideLabel,
  value,
  onChange,
  onBlur,
  onSubmit,
  unit,
  error,
  hint,
  numeric,
  pick,
  onPick = onChange,
  autoFocus,
  onKey,
  rows,
  testID,
}: TextFieldProps) {
  const styles = useStyles();
  const id = useId();
  const shown = shownAs(pick ?? unit);
  // what is typed stands as it is typed, until it is left or something else is kept
  const [typed, setTyped] = useState<{ text: string; kept: string } | null>(null);
  const text = typed?.kept === value ? typed.text : (shown?.show(value) ?? value);
  const change = (text: string) => {
    const kept = shown?.read(text) ?? text;
    setTyped(shown ? { text, kept } : null);
    onChange(kept);
  };
  const leave = () => {
    setTyped(null);
    onBlur?.();
  };
  const beside = useContext(Beside);
  return (
    <View style={[styles.field, beside && styles.even]}>
      {!hideLabel && (
        <Type kind="label" aria-hidden>
          {label}
        </Type>
      )}
      <View style={[styles.box, error !== undefined && styles.bad]}>
        <TextInput
          value={text}
          onChangeText={change}
          onBlur={leave}
          onSubmitEditing={onSubmit}
          autoFocus={autoFocus}
          onKeyPress={
            onKey &&
            ((e) => {
              if (onKey(e.nativeEvent.key)) e.preventDefault();
            })
          }
          {...(rows ? { multiline: true, numberOfLines: rows } : {})}
          inputMode={numeric && pick !== 'time' ? 'decimal' : 'text'}
          aria-label={label}
          aria-invalid={error !== undefined}
          aria-describedby={error ? `${id}e` : undefined}
          testID={testID}
          selectTextOnFocus={numeric}
          style={[styles.input, rows ? { paddingVertical: space.s } : null]}
        />
        {unit && (
          <Type kind="small" aria-hidden>
            {shown?.unit ?? unit}
          </Type>
        )}
        {pick && <PickKey kind={pick} label={label} value={value} onPick={onPick} />}
      </View>
      {error !== undefined ? (
        <Type kind="label" role="alert" nativeID={`${id}e`}>
          {`▲ ${error}`}
        </Type>
      ) : hint ? (
        <Type kind="small">{hint}</Type>
      ) : null}
    </View>
  );
}

interface ValueFieldProps {
  label: string;
  hideLabel?: boolean;
  /** the value as text, as it stands in the document */
  value: string;
  /** returns what is wrong, or null when it was taken */
  onCommit: (text: string) => string | null;
  unit?: string;
  hint?: string;
  numeric?: boolean;
  pick?: 'date' | 'time';
  testID?: string;
}

/**
 * A field that belongs to a document: typed text is taken on Enter, on leaving the field and when the page goes away,
 * so that a reload in mid-edit loses nothing. What cannot be taken stays with its error, also when the field goes and comes back.
 */
export function ValueField({ value, onCommit, ...rest }: ValueFieldProps) {
  const field = `${rest.testID ?? ''} ${rest.label} ${value}`;
  const [text, setText] = useState<string | null>(() => unsaid(field));
  const back = useRef(text !== null);
  const [error, setError] = useState<string | undefined>(undefined);
  const pending = useRef<() => void>(() => undefined);
  const commit = () => take(text);
  const take = (typed: string | null) => {
    if (typed === null) return;
    if (typed === value) {
      setUnsaid(field, null);
      setText(null);
      setError(undefined);
      return;
    }
    const problem = onCommit(typed);
    setError(problem ?? undefined);
    setUnsaid(field, problem === null ? null : typed);
    if (problem === null) setText(null);
  };
  useEffect(() => {
    pending.current = commit;
  });
  useEffect(() => {
    // what came back says again why it was not taken
    if (back.current) pending.current();
    const leave = () => pending.current();
    globalThis.addEventListener?.('pagehide', leave);
    return () => {
      globalThis.removeEventListener?.('pagehide', leave);
      leave();
    };
  }, []);
  return (
    <TextField
      {...rest}
      value={text ?? value}
      error={error}
      onChange={(t) => {
        setText(t);
        if (error) setError(undefined);
      }}
      onBlur={commit}
      onSubmit={commit}
      onPick={(picked) => {
        setText(picked);
        take(picked);
      }}
    />
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  /** the label is only spoken */
  hideLabel?: boolean;
  options: readonly { value: T; label: string }[];
  value: T;
  onChange: (value: T) => void;
}

/** One of a few: a row of radio buttons. */
export function Choice<T extends string>({ label, hideLabel, options, value, onChange }: ChoiceProps<T>) {
  const styles = useStyles();
  return (
    <View style={styles.field} role="radiogroup" aria-label={label}>
      {!hideLabel && <Type kind="label">{label}</Type>}
      <View style={styles.choices}>
        {options.map((o) => (
          <Pressable
            key={o.value}
            role="radio"
            aria-checked={o.value === value}
            aria-label={o.label}
            onPress={() => onChange(o.value)}
            style={[styles.choice, o.value === value && styles.chosen]}
          >
            <Type
              kind="label"
              style={o.value === value ? { color: styles.box.backgroundColor as string } : undefined}
            >
              {o.label}
            </Type>
          </Pressable>
        ))}
      </View>
    </View>
  );
}

/** Something that is so or not: a box and its words. */
export function Check({
  label,
  checked,
  onChange,
  disabled,
  aside,
  testID,
}: {
  label: string;
  checked: boolean;
  onChange: () => void;
  disabled?: boolean;
  /** a quiet word at the end of the line */
  aside?: string;
  testID?: string;
}) {
  const paper = usePaper();
  const Mark = checked ? SquareCheck : Square;
  return (
    <Pressable
      role="checkbox"
      aria-checked={checked}
      aria-label={label}
      onPress={onChange}
      disabled={disabled}
      style={{ flexDirection: 'row', gap: space.m, minHeight: size.target, alignItems: 'center' }}
      testID={testID}
    >
      <Mark size={20} color={paper.ink} strokeWidth={1.75} />
      <Type kind="label" style={{ flex: 1 }}>
        {label}
      </Type>
      {aside !== undefined && <Type kind="small">{aside}</Type>}
    </Pressable>
  );
}

/** Fields side by side, of one width. */
export function FieldRow({ children }: { children: ReactNode }) {
  return (
    <Beside.Provider value>
      <View style={{ flexDirection: 'row', gap: space.m, alignItems: 'flex-start' }}>{children}</View>
    </Beside.Provider>
  );
}
