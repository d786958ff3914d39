/** What a tap presses. */
const KEYS =
  'a,button,input,textarea,select,label,summary,[role=button],[role=link],[role=radio],[role=checkbox],[role=tab],[role=switch],[role=menuitem],[role=option]';
/** A finger that went further was drawing, px. */
const STILL_PX = 12;

export interface Down {
  key: Element | null;
  x: number;
  y: number;
}

const keyAt = (target: EventTarget | null): Element | null =>
  target instanceof Element ? target.closest(KEYS) : null;

const named = (key: Element): string | null => key.getAttribute('aria-label') ?? key.textContent;

/**
 * What a tap presses when the page moved between the finger's coming down and its going up.
 * @returns the key it came down on; 'nothing' when it came down beside every key, or its key is gone; undefined when the tap presses what it meant
 */
export function meant(
  down: Down,
  up: { target: EventTarget | null; clientX: number; clientY: number },
): Element | 'nothing' | undefined {
  const key = keyAt(up.target);
  if (key === down.key || Math.hypot(up.clientX - down.x, up.clientY - down.y) > STILL_PX) return undefined;
  if (!down.key) return 'nothing';
  // drawn anew, it is another element of the same name
  if (!down.key.isConnected) return key && named(key) !== named(down.key) ? 'nothing' : undefined;
  // within one another, as a key in a row that is one
  if (key && (down.key.contains(key) || key.contains(down.key))) return undefined;
  return down.key;
}

/** What is reckoned comes when it comes, and moves what lies below: a tap presses what the finger came down on, never what slid under it. */
export function tapsStay(): void {
  if (typeof document === 'undefined') return;
  let down: Down | null = null;
  document.addEventListener(
    'pointerdown',
    (e) => (down = e.isPrimary ? { key: keyAt(e.target), x: e.clientX, y: e.clientY } : null),
    true,
  );
  document.addEventListener('pointercancel', () => (down = null), true);
  // keys of a keyboard press what has the focus
  document.addEventListener('keydown', () => (down = null), true);
  document.addEventListener(
    'click',
    (e) => {
      const from = down;
      down = null;
      // a label's click on its field, and what we dispatch ourselves, follow a click that was judged
      if (!from || !e.isTrusted) return;
      const key = meant(from, e);
      if (!key) return;
      e.stopImmediatePropagation();
      e.preventDefault();
      if (key instanceof HTMLElement) key.click();
    },
    true,
  );
}
