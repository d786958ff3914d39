import { router, usePathname } from 'expo-router';
import { useEffect, useRef } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import Menu from 'lucide-react-native/icons/menu';
import Redo from 'lucide-react-native/icons/redo-2';
import Search from 'lucide-react-native/icons/search';
import Undo from 'lucide-react-native/icons/undo-2';

import { useWaters } from '@/state/desk';
import { find } from '@/state/finding';
import { redo, setPeek, undo, useSession } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { printHide } from '@/ui/print';
import { font, size, space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

const PLACES = [
  { href: '/', label: 'Today' },
  { href: '/mix', label: 'Mix' },
  { href: '/day', label: 'Day' },
  { href: '/tank', label: 'Tank' },
  { href: '/log', label: 'Log' },
] as const;
/** Pages that belong to a place. */
const BELONGS: Record<string, string> = {
  '/algae': '/tank',
  '/sizing': '/tank',
  '/which': '/case',
  '/choose': '/tank',
  '/hang': '/tank',
  '/place': '/tank',
  '/swap': '/tank',
  '/whole': '/tank',
  '/upkeep': '/case',
  '/given': '/case',
  '/practice': '/case',
  '/hours': '/day',
  '/ease': '/log',
  '/experiments': '/log',
  '/pictures': '/log',
  '/rescue': '/log',
  '/load': '/day',
  '/prove': '/day',
  '/bench': '/case',
  '/sheet': '/day',
  '/patterns': '/day',
  '/schools': '/day',
  '/around': '/day',
  '/fit': '/day',
  '/carry': '/day',
  '/readings': '/tank',
  '/calibration': '/tank',
  '/before-after': '/tank',
  '/start': '/case',
  '/lamps': '/case',
  '/plates': '/mix',
  '/compare': '/mix',
  '/corals': '/mix',
  '/design': '/mix',
};
const placeOf = (path: string) => BELONGS[path] ?? path;

const useStyles = themed((p) => ({
  strip: {
    height: size.strip,
    flexDirection: 'row',
    alignItems: 'center',
    justifyContent: 'space-between',
    paddingHorizontal: space.l,
    borderTopWidth: 1,
    borderColor: p.line,
    backgroundColor: p.paper,
  },
  tabs: {
    flexDirection: 'row',
    height: size.tab,
    borderTopWidth: 1,
    borderColor: p.line,
    backgroundColor: p.paper,
  },
  tab: {
    flex: 1,
    alignItems: 'center',
    justifyContent: 'center',
    borderTopWidth: 3,
    borderColor: 'transparent',
    marginTop: -1,
  },
  here: { borderColor: p.ink },
  rail: {
    width: size.rail,
    borderRightWidth: 1,
    borderColor: p.line,
    padding: space.l,
    gap: space.s,
    backgroundColor: p.paper,
  },
  railTab: {
    minHeight: size.target,
    justifyContent: 'center',
    paddingLeft: space.m,
    borderLeftWidth: 3,
    borderColor: 'transparent',
  },
  zone: { minHeight: size.target, justifyContent: 'center' },
  zoneHere: { borderBottomWidth: 2, borderColor: p.ink },
  before: {
    minHeight: size.target,
    justifyContent: 'center',
    paddingHorizontal: space.s,
    userSelect: 'none',
  },
  off: { opacity: 0.4 },
}));

function useHere() {
  return placeOf(usePathname());
}

/** Bottom tabs of a phone. */
export function Tabs() {
  const styles = useStyles();
  const here = useHere();
  return (
    <View style={styles.tabs} role="tablist" {...printHide}>
      {PLACES.map((p) => (
        <Pressable
          key={p.href}
          role="tab"
          aria-selected={here === p.href}
          aria-label={p.label}
          onPress={() => router.navigate(p.href)}
          style={[styles.tab, here === p.href && styles.here]}
        >
          <Type
            kind="label"
            style={here === p.href ? { fontFamily: font.bold } : undefined}
            quiet={here !== p.href}
          >
            {p.label}
          </Type>
        </Pressable>
      ))}
    </View>
  );
}

/** The strip above the tabs: which water, before, undo, case. */
export function Strip() {
  const styles = useStyles();
  return (
    <View style={styles.strip} {...printHide}>
      <Zones horizontal />
      <View style={{ flexDirection: 'row', alignItems: 'center' }}>
        <SaveSign quiet />
        <Before />
        <UndoKeys />
        <Button label="Find" icon={Search} iconOnly kind="plain" onPress={find} testID="find-key" />
        <Button
          label="Case"
          name="Case: tank, lamps, data"
          icon={Menu}
          iconOnly
          kind="plain"
          onPress={() => router.navigate('/case')}
        />
      </View>
    </View>
  );
}

/** The rail of a wide screen. */
export function Rail() {
  const styles = useStyles();
  const here = useHere();
  const { name } = useWaters();
  return (
    <View style={styles.rail} role="navigation" {...printHide}>
      <Type kind="heading" style={{ paddingLeft: space.m, paddingBottom: space.s }}>
        {name}
      </Type>
      <View role="tablist">
        {[...PLACES, { href: '/case', label: 'Case' } as const].map((p) => (
          <Pressable
            key={p.href}
            role="tab"
            aria-selected={here === p.href}
            aria-label={p.label}
            onPress={() => router.navigate(p.href)}
            style={[styles.railTab, here === p.href && styles.here]}
          >
            <Type style={here === p.href ? { fontFamily: font.bold } : undefined} quiet={here !== p.href}>
              {p.label}
            </Type>
          </Pressable>
        ))}
      </View>
      <View style={{ alignItems: 'flex-start' }}>
        <Button
          label="Find  /"
          name="Find, key /"
          icon={Search}
          kind="plain"
          onPress={find}
          testID="find-key"
        />
      </View>
      <View style={{ flex: 1 }} />
      <View style={{ paddingLeft: space.m, gap: space.s }}>
        <Zones />
        <View style={{ flexDirection: 'row', alignItems: 'center', marginLeft: -space.s }}>
          <Before />
          <UndoKeys />
        </View>
        <SaveSign />
      </View>
    </View>
  );
}

function Zones({ horizontal }: { horizontal?: boolean }) {
  const styles = useStyles();
  const { zones, zoneId } = useWaters();
  // of many waters the one that is shown is in sight
  const here = useRef<View>(null);
  useEffect(() => {
    const node = here.current as unknown as HTMLElement | null;
    node?.scrollIntoView?.({ inline: 'center', block: 'nearest' });
  }, [zoneId, zones.length]);
  return (
    <ScrollView
      horizontal={horizontal}
      showsHorizontalScrollIndicator={false}
      style={horizontal ? { flexShrink: 1 } : { flexGrow: 0 }}
      contentContainerStyle={{
        flexDirection: 'row',
        flexWrap: horizontal ? 'nowrap' : 'wrap',
        columnGap: space.l,
      }}
      role="radiogroup"
      aria-label="Water"
    >
      {zones.map((z) => (
        <Pressable
          key={z.id}
          ref={z.id === zoneId ? here : undefined}
          role="radio"
          aria-checked={z.id === zoneId}
          aria-label={z.name}
          onPress={() => changeSettings({ zoneId: z.id, groupId: null, plateId: null, spotId: null })}
          style={styles.zone}
        >
          <View style={z.id === zoneId ? styles.zoneHere : undefined}>
            <Type kind="label" numberOfLines={1}>
              {z.name}
            </Type>
          </View>
        </Pressable>
      ))}
    </ScrollView>
  );
}

/** Hold: everything as it was before the last change. */
function Before() {
  const styles = useStyles();
  const any = useSession((s) => s.past.length > 0);
  const held = useSession((s) => s.peek);
  return (
    <Pressable
      role="button"
      aria-label="Before: hold to see everything as it was before the last change"
      aria-disabled={!any}
      aria-pressed={held}
      disabled={!any}
      onPressIn={() => setPeek(true)}
      onPressOut={() => setPeek(false)}
      onBlur={() => setPeek(false)}
      style={[styles.before, !any && styles.off]}
    >
      <Type kind="label" style={held ? { fontFamily: font.bold } : undefined}>
        Before
      </Type>
    </Pressable>
  );
}

function UndoKeys() {
  const last = useSession((s) => s.past[s.past.length - 1]?.name);
  const next = useSession((s) => s.future[s.future.length - 1]?.name);
  return (
    <>
      <Button
        label="Undo"
        name={last ? `Undo: ${last}` : 'Nothing to undo'}
        icon={Undo}
        iconOnly
        kind="plain"
        disabled={!last}
        onPress={undo}
        testID="undo"
      />
      <Button
        label="Redo"
        name={next ? `Redo: ${next}` : 'Nothing to redo'}
        icon={Redo}
        iconOnly
        kind="plain"
        disabled={!next}
        onPress={redo}
        testID="redo"
      />
    </>
  );
}

const SAVE_WORDS = { saved: 'Saved', saving: 'Saving', stale: 'Not saved', failed: 'Not saved' } as const;

/** The quiet sign of autosave. */
function SaveSign({ quiet = false }: { quiet?: boolean }) {
  const kind = useSession((s) => s.save.kind);
  return (
    <Type
      kind="small"
      role="status"
      aria-live="polite"
      testID="save-sign"
      // where there is little room it is heard alone: what is not saved is told above the page
      style={quiet ? { width: 1, height: 1, opacity: 0, overflow: 'hidden' } : { paddingHorizontal: space.s }}
    >
      {SAVE_WORDS[kind]}
    </Type>
  );
}
