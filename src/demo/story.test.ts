import { dueChores, overdueChores } from '@/core/case/chores';
import { doseRatio, resultOf, spoilers } from '@/core/case/experiment';
import { grownBetween, outlinedOf } from '@/core/case/outlines';
import { picturesOf } from '@/core/case/pictures';
import { replay } from '@/core/case/replay';
import { livedThrough } from '@/core/case/shown';
import { triage } from '@/core/case/triage';
import { deltaE, movedBy, patchColour } from '@/core/colour/patch';
import { outlineMean } from '@/core/colour/pixels';
import { stepRatio } from '@/core/easing/accustomed';
import { parIn } from '@/core/fixtures/parIn';
import { CARD } from '@/core/portrait/sizes';
import { photograph } from '@/core/portrait/studio';
import { floorUmolOf } from '@/core/record/needs';

import { demoCase } from './lagoon';
import { demoShot } from './pictures';
import { leftShare, PICTURED, STORY, TRUTH, widthShare } from './story';

const NOW = Date.parse('2026-11-24T14:40:00Z');
const bundle = demoCase(NOW, 'Europe/Berlin');
const { log, history } = bundle;
const zone = bundle.case.zones[0]!;
const nowUtc = new Date(NOW).toISOString();
const lived = replay(zone, history, log, null, nowUtc, parIn(zone));
const daysAgo = (utc: string) => Math.round((NOW - Date.parse(utc)) / 86_400_000);
const ratioAt = (c: (typeof lived.changes)[number], spot: number) =>
  stepRatio(c.after[spot]!, c.used[spot]!, floorUmolOf(zone.spots[spot]!, zone)).ratio;

test('who pales is who met a larger step than it bears, and nobody else; today everybody is used to what runs', () => {
  const paled = lived.changes.flatMap((c) =>
    zone.spots.flatMap((s, i) =>
      c.before && ratioAt(c, i) > TRUTH.bears[s.id as keyof typeof TRUTH.bears]
        ? [`${s.id} ${daysAgo(c.atUtc)}`]
        : [],
    ),
  );
  expect(paled).toEqual([`demo-copper ${STORY.both}`]);
  const seen = log.events.flatMap((e) =>
    e.kind === 'sign' && e.sign === 'paling' ? [`${e.spotId} ${daysAgo(e.atUtc)}`] : [],
  );
  expect(seen).toEqual([`demo-copper ${STORY.both - TRUTH.palesAfterDays}`]);
  const now = lived.changes.at(-1)!.after;
  zone.spots.forEach((s, i) => {
    const r = stepRatio(now[i]!, lived.perSpot[i]!, floorUmolOf(s, zone)).ratio;
    expect(Math.abs(r - 1)).toBeLessThan(0.03);
  });
});

test('its paling is explained by the light of that day, and by nothing else', () => {
  const sign = log.events.find((e) => e.kind === 'sign' && e.sign === 'paling')!;
  const { causes } = triage(zone, history, log, lived.changes, 0, 'paling', sign.atUtc);
  expect(causes[0]).toMatchObject({ what: 'light', daysBefore: TRUTH.palesAfterDays });
  const { steps } = livedThrough(zone, history, log, lived.changes, 0, nowUtc);
  expect(steps.some((s) => !s.well && s.ratio > TRUTH.bears['demo-copper'])).toBe(true);
  expect(steps.filter((s) => s.well).every((s) => s.ratio <= TRUTH.bears['demo-copper'])).toBe(true);
});

test('its experiment answers as the truth has it: no more growth under violet, at as much light; nothing spoilt it', () => {
  const [e] = zone.experiments!;
  const { phases, effect } = resultOf(e!);
  expect(effect!.p).toBeGreaterThan(0.05);
  for (const p of phases) expect(p.mean / TRUTH.growthPerDay).toBeCloseTo(1, 0);
  const dose = doseRatio(e!, zone, lived.changes)!;
  expect(Math.abs(dose - 1)).toBeLessThan(0.05);
  expect(spoilers(e!, zone, history, log, nowUtc)).toEqual([]);
});

describe('its pictures', () => {
  const pictures = picturesOf(log, 'demo-copper');
  const shots = pictures.map((p) => photograph({ ...demoShot(p.id)!, px: 320 }));
  const within = (i: number, corners: readonly { x: number; y: number }[]) => {
    const { data, width, height } = shots[i]!;
    return outlineMean(
      data,
      width,
      height,
      corners.map(({ x, y }) => [x * width, y * height]),
    );
  };
  const { left, top } = CARD;
  const card = [
    { x: left, y: top },
    { x: left + CARD.width, y: top },
    { x: left + CARD.width, y: top + CARD.height },
    { x: left, y: top + CARD.height },
  ];
  const colours = pictures.map((p, i) => patchColour(within(i, p.outline!), within(i, card))!);

  test('the paling shows through a camera that is off from shot to shot, as paler; what did not change does not', () => {
    const pale = PICTURED.indexOf(139);
    const [repeat, again] = [PICTURED.indexOf(28), PICTURED.lastIndexOf(28)];
    expect(deltaE(colours[repeat]!, colours[again]!)).toBeLessThan(2);
    const moved = movedBy(colours[0]!, colours[pale]!);
    expect(moved.deltaE).toBeGreaterThan(8);
    expect(moved.stronger).toBeLessThan(-20);
    pictures.forEach((_, i) => {
      if (leftShare(PICTURED[i]!) === 1)
        expect(deltaE(colours[0]!, colours[i]!)).toBeLessThan(0.65 * moved.deltaE);
    });
  });

  test('lines around the table lie on it, and grow as it does', () => {
    pictures.forEach((p, i) => {
      const { coral, width, height } = shots[i]!;
      const inside = (x: number, y: number) => {
        let odd = false;
        p.outline!.forEach((a, k) => {
          const b = p.outline![(k + 1) % p.outline!.length]!;
          if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) odd = !odd;
        });
        return odd;
      };
      let [both, either] = [0, 0];
      for (let y = 0; y < height; y += 2)
        for (let x = 0; x < width; x += 2) {
          const c = coral[y * width + x] === 1;
          const o = inside((x + 0.5) / width, (y + 0.5) / height);
          both += Number(c && o);
          either += Number(c || o);
        }
      // its foot stands out below the cap that was drawn around
      expect(both / either).toBeGreaterThan(0.75);
    });
    const all = outlinedOf(pictures);
    const grown = grownBetween(all[0]!, all.at(-1)!, all, zone);
    const truth = (widthShare(PICTURED.at(-1)!) / widthShare(PICTURED[0])) ** 2;
    expect(Math.abs(grown.ratio / truth - 1)).toBeLessThan(grown.bandShare);
    expect(all[0]!.cm2).toBeGreaterThan(5);
  });
});

test('its display is seen to: nothing of it is overdue today', () => {
  expect(overdueChores(dueChores(bundle, zone), NOW).map((d) => d.chore.id)).toEqual([]);
  // the refugium's lens is: there is something to be done
  expect(overdueChores(dueChores(bundle, bundle.case.zones[1]!), NOW).map((d) => d.chore.id)).toEqual([
    'lens',
  ]);
});

test('what is no picture of the demo is none', () => {
  expect(demoShot('demo-photo-99')).toBeNull();
  expect(demoShot('other')).toBeNull();
});
