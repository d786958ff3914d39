import { type ReactNode } from 'react';
import { Modal, Pressable, ScrollView, useWindowDimensions, View } from 'react-native';

import { Button } from './Button';
import { size, space, themed } from './theme';
import { Type } from './Type';

const useStyles = themed((p) => ({
  back: { flex: 1, backgroundColor: p.shade, justifyContent: 'flex-end' },
  backWide: { justifyContent: 'center', alignItems: 'center' },
  panel: {
    backgroundColor: p.paper,
    borderTopWidth: 1,
    borderColor: p.strong,
    maxHeight: '88%',
    paddingBottom: space.l,
  },
  panelWide: { width: 560, borderWidth: 1, borderRadius: 6, maxHeight: '86%' },
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

/** A sheet for an edit: slides up on a phone, stands in the middle on a wide screen. Escape closes it. */
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
  const { width } = useWindowDimensions();
  const wide = width >= size.wide;
  return (
    <Modal transparent visible onRequestClose={onClose} animationType="none" aria-label={title}>
      <View style={[styles.back, wide && styles.backWide]}>
        <Pressable
          style={{ position: 'absolute', top: 0, left: 0, right: 0, bottom: 0 }}
          onPress={onClose}
          aria-label="Close"
          tabIndex={-1}
        />
        <View style={[styles.panel, wide && styles.panelWide]}>
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
          <ScrollView contentContainerStyle={styles.body} keyboardShouldPersistTaps="handled">
            {children}
          </ScrollView>
        </View>
      </View>
    </Modal>
  );
}
