import type { LitGroup } from '@/core/case/lit';
import { dims } from '@/core/spectrum/controls';
import { part } from '@/ui/part';

const Ways = part(async () => (await import('./Ways')).Ways);

/** What is left to do where lamps are too bright; of lamps that can all be dimmed there is nothing to say. */
export const WaysDown = ({ groups }: { groups: LitGroup[] }) =>
  groups.every((g) => dims(g.lampKind)) ? null : <Ways groups={groups} />;
