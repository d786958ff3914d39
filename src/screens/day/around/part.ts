import type { Judgement } from '@/core/case/judgement';
import type { ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import type { Group } from '@/core/record/zone';
import { type Extras } from '@/core/day/extras';
import { setExtras } from '@/state/commands/days';
import { type Desk } from '@/state/desk';
import { run } from '@/state/session';

/** What the parts of the page of what acts on a day share. */
export interface PartProps {
  desk: Desk;
  groups: LitGroup[];
  light: ZoneLight | null;
  judge: (day?: LitGroup[]) => Judgement | null;
}

export const setting = (group: Group, change: Partial<Extras>): boolean =>
  run(setExtras(group.id, (e) => ({ ...e, ...change })));
