import { ceilingFor, type DayLight, dliRatio, stepRatio } from '../easing/accustomed';
import { dims } from '../spectrum/controls';
import { circuitsOf } from './dawn';
import { DAY_MINUTES } from '../shape/ring';
import type { Calibration } from './calibration';
import { type ByChannel, lightBetween } from './light';
import { litRunning, runningAt } from './lit';
import type { ParOf, UsedLight } from './replay';
import { partsOf, stepBandShare } from './stepBand';
import { runnable } from './runnable';
import { atSetting, type Eased, settingsOf } from './settings';
import type { EasingMethod, HistoryDoc, Runnable } from '../record/history';
import { floorUmolOf, livesByLight, paceOf } from '../record/needs';
import type { Zone } from '../record/zone';

/** What tonight's cut leaves of the light, and who is still over. */
export interface Rescue {
  /** [spot] as it runs */
  now: {
    ratio: number;
    light: DayLight;
    /** half the width of the ratio's 90 % band, as a share */ bandShare: number;
  }[];
  /** the cut that brings everybody to the aim, or as near as the lamps get; null = nothing needs cutting, or no hours would help */
  cut: {
    method: EasingMethod;
    /** share of what runs */
    setting: number;
    targets: Runnable[];
    /** [spot] afterwards */
    ratios: number[];
  } | null;
  /** spots still over the aim after the cut: to be moved lower or shaded */
  over: number[];
}

/**
 * Tonight's cut after a change that was too large: all lamps that dim by one share of their caps, the rest by circuits and hours,
 * as much as it takes for nobody to get more than `aim` times what it is used to. Hours leave a peak as it is: lamps that do not dim are
 * cut by the day's light alone, and never to darkness; who still has too much at its brightest is named in `over`.
 */
export function rescueOf(
  zone: Zone,
  history: HistoryDoc,
  nowUtc: string,
  yellow440PerM: number,
  used: readonly UsedLight[],
  aim: number,
  parOf: ParOf,
  cal: Calibration | null = null,
): Rescue {
  const running = runningAt(history, zone, nowUtc);
  const groups = running.map((e) => litRunning(e));
  const par = parOf(groups, yellow440PerM, zone.spots);
  const lightOf = (threads: typeof groups) => lightBetween(par, threads, zone.spots.length);
  const channels: ByChannel[] = [];
  const whole = lightBetween(par, groups, zone.spots.length, 0, DAY_MINUTES, channels);
  const floorOf = (s: number) => floorUmolOf(zone.spots[s]!, zone);
  const step = (light: DayLight, s: number) => stepRatio(light, used[s]!, floorOf(s));
  const ratio = (light: DayLight, s: number) => step(light, s).ratio;
  const now = whole.map((light, s) => {
    const { ratio, by } = step(light, s);
    const measure = by === 'peak' ? 'peak' : 'dli';
    const bandShare = cal
      ? stepBandShare(cal, () => partsOf(groups, channels[s]!, measure), light, used[s]!, floorOf(s), measure)
      : 0;
    return { ratio, light, bandShare };
  });
  const over = (ratios: readonly number[]) =>
    ratios.flatMap((r, s) =>
      livesByLight(zone.spots[s]!) && r > ceilingFor(aim, paceOf(zone.spots[s]!)) * (1 + 1e-9) ? [s] : [],
    );
  if (over(now.map((n) => n.ratio)).length === 0) return { now, cut: null, over: [] };

  const targets = running.map(runnable);
  const dimming = targets.filter((t) => dims(t.lampKind));
  const method: EasingMethod =
    dimming.length > 0 ? 'cap' : groups.some((g) => circuitsOf([g]).length > 1) ? 'circuits' : 'hours';
  const eased: Eased = { targets: dimming.length > 0 ? dimming : targets, from: targets, method };
  const rest = targets.filter((t) => !eased.targets.includes(t));
  const at = (setting: number) => {
    const set = atSetting(eased, setting);
    const all = groups.map((g) => {
      const t = set.find((x) => x.groupId === g.groupId) ?? rest.find((x) => x.groupId === g.groupId)!;
      return litRunning({ ...running.find((e) => e.groupId === g.groupId)!, ...t, rise: undefined });
    });
    const lights = lightOf(all);
    return {
      set,
      ratios: lights.map(ratio),
      // what the cut goes by
      reached: method === 'cap' ? lights.map(ratio) : lights.map((l, s) => dliRatio(l, used[s]!, floorOf(s))),
      lit: lights.some((l) => l.dli > 0),
    };
  };
  const settings = settingsOf(eased);
  // from the present light downwards: the first that nobody minds, else the lowest
  let best = { setting: settings.at(-1)!, ...at(settings.at(-1)!) };
  for (let i = settings.length - 2; i >= 0 && over(best.reached).length > 0; i -= 1) {
    const tried = { setting: settings[i]!, ...at(settings[i]!) };
    // weeks of darkness are no rescue
    if (!tried.lit) break;
    best = tried;
  }
  return {
    now,
    cut:
      best.setting === settings.at(-1)
        ? null
        : { method, setting: best.setting, targets: best.set, ratios: best.ratios },
    over: over(best.ratios),
  };
}
