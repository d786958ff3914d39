import { memo, type ReactNode, useDeferredValue, useEffect, useState } from 'react';
import { Pressable, ScrollView, useWindowDimensions, View } from 'react-native';
import ChevronDown from 'lucide-react-native/icons/chevron-down';

import { printFlow, printHide, printOnly } from './print';
import { size, space, themed, usePaper } from './theme';
import { Type } from './Type';

const useStyles = themed((p) => ({
  small: {
    position: 'absolute',
    top: 0,
    left: 0,
    right: 0,
    zIndex: 2,
    paddingHorizontal: space.l,
    paddingVertical: 6,
    backgroundColor: p.paper,
    borderBottomWidth: 1,
    borderColor: p.line,
  },
  body: { padding: space.l, paddingTop: space.xl, paddingBottom: space.l, gap: space.l },
  narrow: { paddingTop: space.l },
  both: { flex: 1, flexDirection: 'row', minHeight: 0 },
  column: { flexGrow: 0, flexShrink: 0, borderLeftWidth: 1, borderColor: p.line },
  // the upper edge goes out of sight, its last lines stay: they are the figure and the verdict
  stage: { position: 'sticky' as 'relative', zIndex: 2, backgroundColor: p.paper, paddingBottom: space.s },
  columns: { flexDirection: 'row', gap: space.xxl, alignItems: 'flex-start' },
}));

/** Width of a page's columns: what charts are drawn to. */
export interface PageSize {
  wide: boolean;
  /** width of the main column, px */
  main: number;
  /** width of the side column, px; the main column's on a phone */
  side: number;
}

const SIDE = 380;
const MOST_MAIN = 1040;

export function usePageSize(): PageSize {
  const { width } = useWindowDimensions();
  if (width < size.wide)
    return {
      wide: false,
      main: Math.min(width, size.page) - 2 * space.l,
      side: Math.min(width, size.page) - 2 * space.l,
    };
  const room = width - size.rail - 2 * space.l - space.xxl - 24;
  const side = Math.min(SIDE, room * 0.38);
  return { wide: true, main: Math.min(MOST_MAIN, room - side), side };
}

interface Props {
  title: string;
  /** what the title opens, spoken; with it the title is a button */
  titleOpens?: { name: string; onPress: () => void };
  /** a quiet line under the title */
  under?: string;
  /** one line that says what is so */
  sentence?: ReactNode;
  /** what stays in sight while the rest scrolls: a picture and its lines */
  stage?: ReactNode;
  /** how much of the stage's upper edge goes out of sight as a phone's page scrolls, px */
  stageGoes?: number;
  /** what is set and done here: after the stage on a phone, at the head of the right column on a wide screen */
  set?: ReactNode;
  children?: ReactNode;
  /** details: right on a wide screen, below on a phone */
  side?: ReactNode;
  /** what goes on paper in place of all of it */
  printed?: ReactNode;
  testID?: string;
}

/** Under the title's one line. */
const UNDER_TITLE = 48;

/** A column of a wide page: the shorter one stays in sight to its end while the longer one scrolls on. */
function Column({ width, children }: { width: number; children: ReactNode }) {
  const window = useWindowDimensions();
  const [height, setHeight] = useState(0);
  const top = Math.min(UNDER_TITLE, window.height - height - space.l);
  return (
    <View
      style={[{ width, gap: space.l, position: 'sticky' as 'relative', top }]}
      onLayout={(e) => setHeight(e.nativeEvent.layout.height)}
    >
      {children}
    </View>
  );
}

/** Title and the line under it: what moves below them does not touch them. */
const Head = memo(function Head({
  title,
  under,
  opens,
  onOpen,
  width,
}: {
  title: string;
  under: string | undefined;
  opens: string | undefined;
  onOpen: (() => void) | undefined;
  width: number | undefined;
}) {
  const paper = usePaper();
  return (
    <View style={{ gap: space.xs, width }}>
      {onOpen ? (
        <Pressable
          role="button"
          aria-label={opens}
          onPress={onOpen}
          style={{
            flexDirection: 'row',
            alignItems: 'center',
            gap: space.s,
            minHeight: size.target,
            alignSelf: 'flex-start',
          }}
        >
          <Type kind="title">{title}</Type>
          <ChevronDown size={22} color={paper.ink} strokeWidth={1.75} />
        </Pressable>
      ) : (
        <Type kind="title">{title}</Type>
      )}
      {under !== undefined && <Type kind="small">{under}</Type>}
    </View>
  );
});

/** A page of the case: title, sentence, then figures and charts. The title shrinks to one line once it has scrolled away. */
export function Page({
  title,
  titleOpens,
  under,
  sentence,
  stage,
  stageGoes = 0,
  set,
  children,
  side,
  printed,
  testID,
}: Props) {
  const styles = useStyles();
  const { wide, main, side: sideWidth } = usePageSize();
  const [away, setAway] = useState(false);
  // what the place is for is drawn first
  const details = useDeferredValue(true, false) && side;
  useEffect(() => {
    if (typeof document !== 'undefined') document.title = `${title} · Chromatheca`;
  }, [title]);
  const head = (
    <Head
      {...{ title, under }}
      opens={titleOpens?.name}
      onOpen={titleOpens?.onPress}
      width={wide ? undefined : main}
    />
  );
  return (
    <View style={{ flex: 1 }} testID={testID} role="main" {...printFlow}>
      {printed !== undefined && (
        <View {...printOnly} aria-hidden>
          {printed}
        </View>
      )}
      {away && !stage && (
        <View style={styles.small} aria-hidden {...printHide}>
          <Type kind="label" numberOfLines={1}>
            {title}
          </Type>
        </View>
      )}
      {wide && stage ? (
        // each column scrolls by itself: what is set stands beside what it changes
        <View style={styles.both} {...(printed === undefined ? printFlow : printHide)}>
          <ScrollView
            {...printFlow}
            style={{ flex: 1 }}
            contentContainerStyle={[styles.body, { width: main + 2 * space.l, gap: space.m }]}
            keyboardShouldPersistTaps="handled"
          >
            {head}
            {sentence}
            {stage}
            {children}
          </ScrollView>
          <ScrollView
            {...printFlow}
            style={[styles.column, { width: sideWidth + 2 * space.l }]}
            contentContainerStyle={styles.body}
            keyboardShouldPersistTaps="handled"
          >
            {set}
            {details}
          </ScrollView>
        </View>
      ) : (
        <ScrollView
          {...(printed === undefined ? printFlow : printHide)}
          contentContainerStyle={wide ? styles.body : [styles.body, styles.narrow]}
          scrollEventThrottle={32}
          onScroll={(e) => setAway(e.nativeEvent.contentOffset.y > 56)}
          keyboardShouldPersistTaps="handled"
        >
          {head}
          {stage ? (
            <>
              {sentence}
              <View style={[styles.stage, { width: main, alignSelf: 'center', top: -stageGoes } as object]}>
                {stage}
              </View>
              <View style={{ width: main, gap: space.l, alignSelf: 'center' }}>
                {children}
                {set}
                {details}
              </View>
            </>
          ) : (
            <>
              {/* no wider than what it speaks of: a sheet stands over the side column */}
              {sentence !== undefined && (wide ? <View style={{ width: main }}>{sentence}</View> : sentence)}
              {wide && side ? (
                <View style={styles.columns}>
                  <Column width={main}>{children}</Column>
                  <Column width={sideWidth}>{details}</Column>
                </View>
              ) : (
                <View style={{ width: main, gap: space.l, alignSelf: wide ? 'flex-start' : 'center' }}>
                  {children}
                  {details}
                </View>
              )}
            </>
          )}
        </ScrollView>
      )}
    </View>
  );
}
