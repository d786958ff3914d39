import { QueryClientProvider, useQuery } from '@tanstack/react-query';
import { useFonts } from 'expo-font';
import { type ReactNode, useEffect } from 'react';
import { useWindowDimensions, View } from 'react-native';
import { GestureHandlerRootView } from 'react-native-gesture-handler';

import { pageHeads } from '@/state/pageHeads';
import { ask, closeFinding, find, showKeys, useFinding } from '@/state/finding';
import { keepOffline } from '@/state/offline';
import { redo, undo, useSession } from '@/state/session';
import { useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { usePageKeys } from '@/ui/keys';
import { fetchParts, later } from '@/ui/part';
import { printFlow, usePageStyle } from '@/ui/print';
import { tapsStay } from '@/ui/tap';
import { touchedFigure } from '@/ui/touched';
import { PaperProvider, size, space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Find, isTold, Keys, WhatIs } from '../sheets';
import { Banners } from './Banners';
import { BOOT, client } from './begin';
import { FONTS } from './fonts';
import { Rail, Strip, Tabs } from './Places';

later(pageHeads);
tapsStay();
/** The rest of the app is fetched when the first place has been drawn and looked at for a moment. */
const FETCH_AFTER_MS = 1500;

const useStyles = themed((p) => ({
  page: { flex: 1, backgroundColor: p.paper },
  wide: { flexDirection: 'row' },
  message: {
    flex: 1,
    padding: space.xl,
    gap: space.l,
    justifyContent: 'center',
    maxWidth: 560,
    alignSelf: 'center',
  },
}));

/** Everything around the places: providers, papers, tabs or rail, banners. */
export function Shell({ children }: { children: ReactNode }) {
  const paper = useSettings((s) => s.paper);
  const [fontsReady, fontError] = useFonts(FONTS);
  usePageStyle();
  return (
    <GestureHandlerRootView style={{ flex: 1 }}>
      <QueryClientProvider client={client}>
        <PaperProvider choice={paper}>
          <Opened ready={fontsReady || fontError !== null}>{children}</Opened>
        </PaperProvider>
      </QueryClientProvider>
    </GestureHandlerRootView>
  );
}

/** @param ready letters can be drawn: what is stored is read meanwhile */
function Opened({ ready, children }: { ready: boolean; children: ReactNode }) {
  const styles = useStyles();
  const { width } = useWindowDimensions();
  const wide = width >= size.wide;
  const open = useSession((s) => s.bundle !== null);
  const start = useQuery(BOOT);
  useEffect(() => {
    if (!open) return;
    const timer = setTimeout(() => void fetchParts().then(keepOffline), FETCH_AFTER_MS);
    return () => clearTimeout(timer);
  }, [open]);
  const finding = useFinding((s) => s.open);
  usePageKeys((press) => {
    if ((press.key === '/' || press.key === '?') && !press.typing && open) {
      press.preventDefault();
      return press.key === '/' ? find() : showKeys();
    }
    if (press.typing || !press.command || press.key.toLowerCase() !== 'z') return;
    press.preventDefault();
    if (press.shift) redo();
    else undo();
  });
  useEffect(() => {
    if (!open || typeof document === 'undefined') return;
    const listen = (event: MouseEvent) => {
      const figure = touchedFigure(event);
      // dates and counts say what they are
      if (figure)
        void isTold(figure).then(
          (told) => told && ask(figure),
          () => undefined,
        );
    };
    document.addEventListener('click', listen);
    return () => document.removeEventListener('click', listen);
  }, [open]);
  if (!ready) return null;
  if (start.isError) {
    return (
      <View style={[styles.page, styles.message]}>
        <Type kind="title">The store cannot be read</Type>
        <Type>
          {`The browser did not let Chromatheca open its store (${start.error.message}). Private windows and blocked site data do that. Allow site data for this address, then try again; nothing was changed.`}
        </Type>
        <Button label="Try again" onPress={() => start.refetch()} />
      </View>
    );
  }
  if (!open) return <View style={styles.page} testID="opening" />;
  return (
    <View style={[styles.page, wide && styles.wide]} {...printFlow}>
      {wide && <Rail />}
      <View style={{ flex: 1, minHeight: 0 }} {...printFlow}>
        <Banners />
        <View style={{ flex: 1, minHeight: 0 }} {...printFlow}>
          {children}
        </View>
        {!wide && <Strip />}
        {!wide && <Tabs />}
        {finding === 'find' && <Find onClose={closeFinding} />}
        {finding === 'keys' && <Keys onClose={closeFinding} />}
        {typeof finding === 'object' && finding && <WhatIs asked={finding} onClose={closeFinding} />}
      </View>
    </View>
  );
}
