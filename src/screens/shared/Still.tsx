import { type ReactNode, useEffect, useRef, useState } from 'react';
import { View } from 'react-native';

import { useLive } from '@/state/desk';
import { Later } from '@/ui/Later';
import { space } from '@/ui/theme';

/** What stands beside what is pulled and is read, not grabbed: it holds still while a finger moves. */
export function Still({ children, still = true }: { children: ReactNode; still?: boolean }) {
  const touching = useLive((s) => s.command !== null) && still;
  const [kept, setKept] = useState(children);
  if (!touching && kept !== children) setKept(children);
  return touching ? kept : children;
}

/** Figures of what is pulled: in sight they follow in slices, out of sight once the finger lifts. */
export function Following({ children }: { children: ReactNode }) {
  const box = useRef<View>(null);
  const [seen, setSeen] = useState(true);
  useEffect(() => {
    if (typeof IntersectionObserver === 'undefined') return;
    const watch = new IntersectionObserver((entries) => setSeen(entries.at(-1)!.isIntersecting));
    watch.observe(box.current as unknown as Element);
    return () => watch.disconnect();
  }, []);
  return (
    <View ref={box} style={{ gap: space.l }}>
      <Still still={!seen}>
        <Later>{children}</Later>
      </Still>
    </View>
  );
}
