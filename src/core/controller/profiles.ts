import { type Control, PLAIN_CONTROLLER, type ControllerProfile, type LampKind } from '../spectrum/lampKind';

interface ControllerEntry {
  id: string;
  about: string;
  profile: ControllerProfile;
  /** a control it sets, which a lamp behind it has to have */
  sets?: Control['kind'];
  /** circuits that it switches apart */
  circuits?: number;
}

/** Kinds of controllers that hang on reef lamps, invented and generic. Mark of every figure: rule of thumb. */
export const CONTROLLERS: readonly ControllerEntry[] = [
  {
    id: 'points',
    about: 'Any number of points, whole percents, even ramps between them.',
    profile: PLAIN_CONTROLLER,
  },
  {
    id: 'fine-points',
    about: 'Any number of points in tenths of a percent; eases in by itself, its interludes know no cap.',
    profile: {
      ...PLAIN_CONTROLLER,
      name: 'Fine points, eases by itself',
      pointStepShare: 0.001,
      easesItself: true,
      easingOf: 'cap',
      interludeUnderCap: false,
      rows: 'times',
    },
  },
  {
    id: 'ten-slots',
    about: 'Ten points at most, on five minutes, ramps between them; its clock ignores summer time.',
    profile: {
      ...PLAIN_CONTROLLER,
      name: 'Ten slots',
      maxPoints: 10,
      everyMin: 5,
      followsClockChange: false,
      rows: 'times',
    },
  },
  {
    id: 'four-slots',
    about: 'Four slots on whole hours; each holds until the next, nothing between 0 and 5 %.',
    profile: {
      ...PLAIN_CONTROLLER,
      name: 'Four whole-hour slots',
      maxPoints: 4,
      everyMin: 60,
      lowestShare: 0.05,
      interpolation: 'hold',
      followsClockChange: false,
      rows: 'times',
    },
  },
  {
    id: 'tint-keys',
    about: 'Eight points of tint and brightness in steps of 5 %; its cap rescales the day.',
    sets: 'tint',
    profile: {
      ...PLAIN_CONTROLLER,
      name: 'Tint and brightness',
      maxPoints: 8,
      everyMin: 15,
      pointStepShare: 0.05,
      capMeans: 'rescales',
      rows: 'times',
    },
  },
  {
    id: 'two-circuits',
    about: 'A clock that switches each circuit on and off twice a day, on quarter hours.',
    circuits: 2,
    profile: {
      ...PLAIN_CONTROLLER,
      name: 'Two circuits on a clock',
      sets: 'switch',
      maxPoints: 4,
      everyMin: 15,
      pointStepShare: 0,
      interpolation: 'hold',
      followsClockChange: false,
    },
  },
  {
    id: 'wall-timer',
    about: 'A timer in the wall that switches the whole lamp, on half hours, once on and once off.',
    profile: {
      ...PLAIN_CONTROLLER,
      name: 'Wall timer',
      sets: 'switch',
      maxPoints: 2,
      everyMin: 30,
      interpolation: 'hold',
      followsClockChange: false,
    },
  },
];

/** Why a controller cannot be this lamp's at all; null = it can. */
export const foreignTo = ({ sets, profile }: ControllerEntry, kind: LampKind): string | null =>
  sets && !kind.controls.some((c) => c.kind === sets)
    ? `${profile.name} sets a ${sets}, which this lamp does not have: no day of it can be typed in there`
    : null;

/** What a controller takes, in a line. */
export function profileWords(p: ControllerProfile): string {
  const step = p.pointStepShare * 100;
  return [
    p.sets === 'switch' ? 'on and off' : p.interpolation === 'ramp' ? 'ramps' : 'holds each value',
    p.maxPoints === null
      ? 'any number of points'
      : `at most ${p.maxPoints} ${p.sets === 'switch' ? 'switchings' : 'points'}`,
    p.everyMin === 1 ? 'to the minute' : p.everyMin === 60 ? 'on whole hours' : `every ${p.everyMin} min`,
    p.sets === 'switch' ? null : step === 0 ? 'any value' : `steps of ${Math.round(step * 10) / 10} %`,
    p.lowestShare > 0 ? `nothing between 0 and ${Math.round(p.lowestShare * 100)} %` : null,
    p.followsClockChange ? null : 'own clock',
    p.easesItself ? `eases by itself, percents of the ${p.easingOf}` : null,
  ]
    .filter(Boolean)
    .join(', ');
}
