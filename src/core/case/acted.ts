import { dli } from '../day/day';
import { cloudsOn, extraDay, type Extras, flashesOn, stormMinute, type Weather } from '../day/extras';
import type { CivilDay } from '../day/wallClock';
import type { LitGroup } from './lit';

const dayOf = (group: LitGroup, extras: Extras | undefined, on: CivilDay | null) =>
  extraDay(
    group.lampKind,
    group.threads,
    { capShare: group.day.capShare, easingShare: group.day.easingShare },
    extras,
    on,
  );

/** What an interlude does to its date: light with it and without it at a place, mol m⁻² d⁻¹, and the group as it is then lit. */
export function interludeCost(
  group: LitGroup,
  id: string,
  timeZone: string,
  par: readonly number[],
): { withDli: number; withoutDli: number; lit: LitGroup } | null {
  const interludes = group.extras?.interludes ?? [];
  const one = interludes.find((i) => i.id === id);
  if (!one) return null;
  const on = { date: one.date, timeZone };
  const day = dayOf(group, group.extras, on);
  const without = dayOf(group, { ...group.extras, interludes: interludes.filter((i) => i.id !== id) }, on);
  return { withDli: dli(day, par), withoutDli: dli(without, par), lit: { ...group, day } };
}

/** What weather takes of the light over some days, as shares, and how many of them it touches. */
export function weatherLoss(
  group: LitGroup,
  weather: Weather,
  days: readonly CivilDay[],
  par: readonly number[],
): { meanShare: number; mostShare: number; cloudy: number; storms: number } {
  const open = dli(dayOf(group, undefined, null), par);
  const lost = days.map((on) => (open > 0 ? 1 - dli(dayOf(group, { weather }, on), par) / open : 0));
  return {
    meanShare: lost.reduce((a, b) => a + b, 0) / Math.max(1, lost.length),
    mostShare: Math.max(0, ...lost),
    cloudy: days.filter((on) => cloudsOn(weather, on).length > 0).length,
    storms: days.filter((on) => flashesOn(weather, on, stormMinute(group.threads)).length > 0).length,
  };
}
