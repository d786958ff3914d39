import { doseRatio, resultOf, spoilers } from '@/core/case/experiment';
import { grownBetween, outlinedOf } from '@/core/case/outlines';
import { picturesOf } from '@/core/case/pictures';
import { replay } from '@/core/case/replay';
import { livedThrough } from '@/core/case/shown';
import { triage } from '@/core/case/triage';
import { deltaE, movedBy, patchColour } from '@/core/colour/patch';
import { roundMean } from '@/core/colour/pixels';
import { stepRatio } from '@/core/easing/accustomed';
import { parIn } from '@/core/fixtures/parIn';
import { photograph } from '@/core/portrait/studio';
import { floorUmolOf } from '@/core/record/needs';

import { demoCase } from './lagoon';
import { demoShot } from './pictures';
import { PICTURED, STORY, TRUTH, widthShare } from './story';

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
  const mean = (i: number, at: { x: number; y: number }) => {
    const { data, width, height } = shots[i]!;
    const r = Math.round(0.012 * width);
    const side = 2 * r + 1;
    const rgba = new Uint8Array(4 * side * side);
    for (let y = 0; y < side; y += 1)
      for (let x = 0; x < side; x += 1) {
        const from = 4 * ((Math.round(at.y * height) - r + y) * width + Math.round(at.x * width) - r + x);
        rgba.set(data.subarray(from, from + 4), 4 * (y * side + x));
      }
    return roundMean(rgba, side);
  };
  const colours = pictures.map((p, i) => patchColour(mean(i, p.patch!), mean(i, p.grey!))!);

  test('the paling shows through a camera that is off from shot to shot, as paler; what did not change does not', () => {
    const pale = PICTURED.indexOf(139);
    const [repeat, again] = [PICTURED.indexOf(28), PICTURED.lastIndexOf(28)];
    const noise = deltaE(colours[repeat]!, colours[again]!);
    const moved = movedBy(colours[0]!, colours[pale]!);
    expect(moved.deltaE).toBeGreaterThan(8);
    expect(moved.deltaE).toBeGreaterThan(2 * noise);
    expect(moved.stronger).toBeLessThan(-3);
    expect(deltaE(colours[0]!, colours.at(-1)!)).toBeLessThan(moved.deltaE / 2);
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

test('what is no picture of the demo is none', () => {
  expect(demoShot('demo-photo-99')).toBeNull();
  expect(demoShot('other')).toBeNull();
});
