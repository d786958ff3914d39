import { part } from '@/ui/part';

import { Today as TodayNow } from './today/Today';

/** Comes with the page, and is drawn a little at a time once what stands around it is there. */
export const Today = part(async () => TodayNow, TodayNow);

// every other place is a part of its own
export const Algae = part(async () => (await import('./algae/part')).Algae);
export const Around = part(async () => (await import('./day/part')).Around);
export const BeforeAfterPage = part(async () => (await import('./readings/part')).BeforeAfterPage);
export const BenchPage = part(async () => (await import('./lampside/part')).BenchPage);
export const CalibrationPage = part(async () => (await import('./readings/part')).CalibrationPage);
export const CarryPage = part(async () => (await import('./day/part')).CarryPage);
export const Case = part(async () => (await import('./case/Case')).Case);
export const ChoosePage = part(async () => (await import('./tank/part')).ChoosePage);
export const Compare = part(async () => (await import('./mix/part')).Compare);
export const Corals = part(async () => (await import('./mix/part')).Corals);
export const Day = part(async () => (await import('./day/part')).Day);
export const Design = part(async () => (await import('./mix/part')).Design);
export const Ease = part(async () => (await import('./ease/part')).Ease);
export const Experiments = part(async () => (await import('./experiments/part')).Experiments);
export const FitPage = part(async () => (await import('./day/part')).FitPage);
export const Given = part(async () => (await import('./plates/part')).Given);
export const HangPage = part(async () => (await import('./tank/part')).HangPage);
export const Hours = part(async () => (await import('./hours/Hours')).Hours);
export const Lamps = part(async () => (await import('./plates/part')).Lamps);
export const Load = part(async () => (await import('./lampside/part')).Load);
export const Log = part(async () => (await import('./log/Log')).Log);
export const Mix = part(async () => (await import('./mix/Mix')).Mix);
export const Patterns = part(async () => (await import('./day/part')).Patterns);
export const Pictures = part(async () => (await import('./pictures/part')).Pictures);
export const PlacePage = part(async () => (await import('./tank/part')).PlacePage);
export const Plates = part(async () => (await import('./plates/part')).Plates);
export const Practice = part(async () => (await import('./mix/part')).Practice);
export const Prove = part(async () => (await import('./lampside/part')).Prove);
export const Readings = part(async () => (await import('./readings/part')).Readings);
export const Rescue = part(async () => (await import('./ease/part')).Rescue);
export const LampSheet = part(async () => (await import('./sheet/LampSheet')).LampSheet);
export const Schools = part(async () => (await import('./day/part')).Schools);
export const Sizing = part(async () => (await import('./algae/part')).Sizing);
export const SwapPage = part(async () => (await import('./tank/part')).SwapPage);
export const Tank = part(async () => (await import('./tank/part')).Tank);
export const Upkeep = part(async () => (await import('./upkeep/Upkeep')).Upkeep);
export const WholePage = part(async () => (await import('./tank/part')).WholePage);
export const Which = part(async () => (await import('./algae/part')).Which);
