import { type ReactNode } from 'react';
import { Modal, Pressable, ScrollView, useWindowDimensions, View } from 'react-native';

import { Button } from './Button';
import { usePageSize } from './Page';
import { size, space, themed } from './theme';
import { Type } from './Type';

const useStyles = themed((p) => ({
  back: { flex: 1, backgroundColor: p.shade, justifyContent: 'flex-end' },
  // on a wide screen it stands in the right column, and what it changes stays in sight
  backWide: { backgroundColor: 'transparent', alignItems: 'flex-end' },
  panel: {
    backgroundColor: p.paper,
    borderTopWidth: 1,
    borderColor: p.strong,
    maxHeight: '88%',
    paddingBottom: space.l,
  },
  panelWide: { borderTopWidth: 0, borderLeftWidth: 1, maxHeight: '100%', height: '100%' },
  head: {
    flexDirection: 'row',
    alignItems: 'center',
    justifyContent: 'space-between',
    paddingLeft: space.l,
    paddingRight: space.s,
    paddingTop: space.s,
  },
  body: { padding: space.l, gap: space.l },
}));

/** A sheet for an edit: slides up on a phone, stands in the right column of a wide screen. Escape closes it. */
export function Sheet({
  title,
  onClose,
  typed,
  children,
}: {
  title: string;
  onClose: () => void;
  /** what is typed here and not kept: it stays when the sheet closes, and can be started over */
  typed?: { changed: boolean; clear: () => void };
  children: ReactNode;
}) {
  const styles = useStyles();
  const { wide, main, side } = usePageSize();
  const window = useWindowDimensions();
  // over all of the right column, wherever that begins: no sliver of it is left beside the sheet
  const panel = window.width - size.rail - space.l - main - space.xxl + space.s;
  return (
    <Modal transparent visible onRequestClose={onClose} animationType="none" aria-label={title}>
      <View style={[styles.back, wide && styles.backWide]}>
        <Pressable
          style={{ position: 'absolute', top: 0, left: 0, right: 0, bottom: 0 }}
          onPress={onClose}
          aria-label="Close"
          tabIndex={-1}
        />
        <View style={[styles.panel, wide && [styles.panelWide, { width: panel }]]}>
          <View style={styles.head}>
            <Type kind="heading" style={{ flexShrink: 1 }}>
              {title}
            </Type>
            <View style={{ flexDirection: 'row' }}>
              {typed?.changed && (
                <Button label="Start over" onPress={typed.clear} kind="plain" testID="start-over" />
              )}
              <Button label="Done" onPress={onClose} kind="plain" />
            </View>
          </View>
          <ScrollView
            contentContainerStyle={[styles.body, wide && { width: side + 2 * space.l }]}
            keyboardShouldPersistTaps="handled"
          >
            {children}
          </ScrollView>
        </View>
      </View>
    </Modal>
  );
}
