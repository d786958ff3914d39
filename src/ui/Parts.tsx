import { memo, type ReactNode, useCallback, useState } from 'react';
import { Pressable, View, type ViewStyle } from 'react-native';
import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import Eye from 'lucide-react-native/icons/eye';
import Plug from 'lucide-react-native/icons/plug-zap';
import Flame from 'lucide-react-native/icons/flame';
import Info from 'lucide-react-native/icons/info';

import { space, themed, usePaper } from './theme';
import { Type } from './Type';

const useStyles = themed((p) => ({
  line: { height: 1, backgroundColor: p.line },
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    gap: space.m,
    minHeight: 56,
    paddingVertical: space.s,
    borderBottomWidth: 1,
    borderColor: p.line,
  },
  note: {
    flexDirection: 'row',
    gap: space.s,
    borderLeftWidth: 2,
    borderColor: p.strong,
    paddingLeft: space.m,
    paddingVertical: 2,
  },
}));

export function Hairline() {
  const styles = useStyles();
  return <View style={styles.line} />;
}

/** A line of a list; pressable when it leads somewhere. */
export function Row({
  children,
  onPress,
  name,
  style,
}: {
  children: ReactNode;
  onPress?: () => void;
  name?: string;
  style?: ViewStyle;
}) {
  const styles = useStyles();
  if (!onPress) return <View style={[styles.row, style]}>{children}</View>;
  return (
    <Pressable role="button" aria-label={name} onPress={onPress} style={[styles.row, style]}>
      {children}
    </Pressable>
  );
}

const MARKS = { eyes: Eye, mains: Plug, heat: Flame, note: Info } as const;

/** A caution or a note, set off by a rule and a mark, never by colour. */
export function Note({ kind = 'note', children }: { kind?: keyof typeof MARKS; children: ReactNode }) {
  const styles = useStyles();
  const paper = usePaper();
  const Mark = MARKS[kind];
  return (
    <View style={styles.note} role="note">
      <View style={{ paddingTop: 1 }}>
        <Mark size={17} color={paper.ink} strokeWidth={1.75} />
      </View>
      <Type kind="small" style={{ flex: 1 }}>
        {children}
      </Type>
    </View>
  );
}

/** Details that most people never need, folded away under their title. */
export function Fold({
  title,
  children,
  open: initially = false,
  testID,
}: {
  title: string;
  children: ReactNode;
  open?: boolean;
  testID?: string;
}) {
  const [open, setOpen] = useState(initially);
  const turn = useCallback(() => setOpen((was) => !was), []);
  return (
    <View style={{ gap: space.m }}>
      <FoldKey {...{ title, open, testID }} onPress={turn} />
      {open && children}
    </View>
  );
}

const FoldKey = memo(function FoldKey({
  title,
  open,
  testID,
  onPress,
}: {
  title: string;
  open: boolean;
  testID: string | undefined;
  onPress: () => void;
}) {
  const paper = usePaper();
  const Mark = open ? ChevronDown : ChevronRight;
  return (
    <Pressable
      role="button"
      aria-expanded={open}
      aria-label={title}
      onPress={onPress}
      testID={testID}
      style={{ flexDirection: 'row', alignItems: 'center', gap: space.s, minHeight: 44 }}
    >
      <Mark size={18} color={paper.ink} strokeWidth={1.75} />
      <Type kind="label" style={{ flex: 1 }}>
        {title}
      </Type>
    </Pressable>
  );
});

/** A titled part of a page. */
export function Section({
  title,
  children,
  aside,
}: {
  title: string;
  children: ReactNode;
  aside?: ReactNode;
}) {
  return (
    <View style={{ gap: space.m }} role="region" aria-label={title}>
      <View
        style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between', gap: space.m }}
      >
        <Type kind="heading">{title}</Type>
        {aside}
      </View>
      {children}
    </View>
  );
}
