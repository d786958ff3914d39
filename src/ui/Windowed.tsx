import { observeElementRect, type Rect, useVirtualizer, type Virtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { View } from 'react-native';

/** Where nothing is laid out a window is as high as this, px. */
const UNSEEN_PX = 4000;

/** A long list of which only what is in sight, and a little around it, is drawn; it scrolls with the page. */
export function Windowed({
  count,
  keyOf,
  usualPx,
  draw,
}: {
  count: number;
  keyOf: (i: number) => string;
  /** how high a row usually is */
  usualPx: (i: number) => number;
  draw: (i: number) => ReactNode;
}) {
  const list = useRef<View>(null);
  const [scroller, setScroller] = useState<Element | null>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    const element = list.current as unknown as HTMLElement | null;
    let above = element?.parentElement ?? null;
    while (above && !/auto|scroll/.test(getComputedStyle(above).overflowY)) above = above.parentElement;
    setScroller(above ?? document.body);
    if (element && above)
      setTop(element.getBoundingClientRect().top - above.getBoundingClientRect().top + above.scrollTop);
  }, [count]);
  // eslint-disable-next-line react-hooks/incompatible-library -- what it returns is used in this draw alone
  const rows = useVirtualizer<Element, Element>({
    count,
    getItemKey: keyOf,
    getScrollElement: () => scroller,
    estimateSize: usualPx,
    overscan: 12,
    scrollMargin: top,
    initialRect: { width: 1, height: UNSEEN_PX },
    observeElementRect: seen,
  });
  return (
    <View ref={list} style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map((row) => (
        <div
          key={row.key}
          data-index={row.index}
          ref={rows.measureElement}
          style={{
            ...{ position: 'absolute', top: 0, left: 0, right: 0, display: 'flex', flexDirection: 'column' },
            transform: `translateY(${row.start - top}px)`,
          }}
        >
          {draw(row.index)}
        </div>
      ))}
    </View>
  );
}

const seen = (of: Virtualizer<Element, Element>, tell: (rect: Rect) => void) =>
  observeElementRect(of, (rect) => tell(rect.height > 0 ? rect : { ...rect, height: UNSEEN_PX }));
