import { type ReactNode } from 'react';
import { Pressable, View, type ViewStyle } from 'react-native';
import Eye from 'lucide-react-native/icons/eye';
import Plug from 'lucide-react-native/icons/plug-zap';
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

const MARKS = { eyes: Eye, mains: Plug, note: Info } as const;

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
