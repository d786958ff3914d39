import { type ReactNode, useState } from 'react';
import { View } from 'react-native';

import { Choice } from './Field';
import { space, themed } from './theme';
import { Type } from './Type';

/** A part of a sentence that can be set: its value is underlined, and a tap on it opens what it can be. */
export interface SetPart {
  id: string;
  /** what is set, for those who hear it: "Coral" */
  name: string;
  value: string;
  options?: readonly { value: string; label: string }[];
  chosen?: string;
  onChoose?: (value: string) => void;
  /** what choosing another takes along */
  note?: string;
  /** fields in place of options */
  panel?: ReactNode;
}

const useStyles = themed((p) => ({
  sentence: { lineHeight: 32 },
  part: { textDecorationLine: 'underline', textDecorationStyle: 'solid', textDecorationColor: p.strong },
  open: { textDecorationColor: p.ink },
  panel: { borderLeftWidth: 2, borderColor: p.ink, paddingLeft: space.m, gap: space.m },
}));

/** One sentence in place of a stack of choices: words, and parts that can be set where they stand. */
export function Sentence({
  parts,
  testID,
}: {
  parts: readonly (string | { strong: string } | SetPart)[];
  testID?: string;
}) {
  const styles = useStyles();
  const [open, setOpen] = useState<string | null>(null);
  const settable = parts.filter((p): p is SetPart => typeof p !== 'string' && 'id' in p);
  const opened = settable.find((p) => p.id === open);
  return (
    <View style={{ gap: space.s }}>
      <Type kind="body" style={styles.sentence} testID={testID} aria-live="polite">
        {parts.map((p) =>
          typeof p === 'string' ? (
            p
          ) : 'strong' in p ? (
            <Type key={p.strong} kind="strong">
              {p.strong}
            </Type>
          ) : (
            <Type
              key={p.id}
              kind="strong"
              role="button"
              tabIndex={0}
              aria-expanded={p.id === open}
              aria-label={`${p.name}: ${p.value}. Change`}
              onPress={() => setOpen(p.id === open ? null : p.id)}
              style={[styles.sentence, styles.part, p.id === open && styles.open]}
              testID={`set-${p.id}`}
            >
              {p.value}
            </Type>
          ),
        )}
      </Type>
      {opened && (
        <View style={styles.panel} role="group" aria-label={opened.name}>
          {opened.panel ?? (
            <Choice
              label={opened.name}
              value={opened.chosen ?? ''}
              options={opened.options ?? []}
              onChange={(value) => {
                opened.onChoose?.(value);
                setOpen(null);
              }}
            />
          )}
          {opened.note && <Type kind="small">{opened.note}</Type>}
        </View>
      )}
    </View>
  );
}
