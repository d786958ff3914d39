import { type ReactNode, useState } from 'react';

import { useLive } from '@/state/desk';

/** What stands beside what is pulled and is read, not grabbed: it holds still while a finger moves. */
export function Still({ children }: { children: ReactNode }) {
  const touching = useLive((s) => s.command !== null);
  const [kept, setKept] = useState(children);
  if (!touching && kept !== children) setKept(children);
  return touching ? kept : children;
}
