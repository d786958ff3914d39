import { lampLibrary, libraryLamp } from '@/core/library/lamps';
import { allFull, channelLevels } from '@/core/spectrum/controls';
import type { Levels, LampKind } from '@/core/spectrum/lampKind';
import { addScaled, zeroSpectrum } from '@/core/spectrum/grid';
import { keptSpectrum } from '@/core/spectrum/lamp';
import { demoPanel } from '@/demo/panel';

import { combSpan, crestMix, crestsOf, heightShare } from './combShape';

/** What the channels send out at their drive levels, without any budget. */
const driven = (kind: LampKind, mix: Levels) => {
  const out = zeroSpectrum();
  channelLevels(kind, mix).forEach((v, i) => addScaled(out, keptSpectrum(kind.channels[i]!), v));
  return out;
};

describe('crests of any lamp', () => {
  test.each(lampLibrary().map((l) => [l.kind.name, l.kind] as const))(
    '%s: a grip per control but the tint, apart from one another',
    (_, kind) => {
      const crests = crestsOf(kind, allFull(kind));
      expect(crests.map((c) => c.id)).toEqual(
        kind.controls.filter((c) => c.kind !== 'tint').map((c) => c.id),
      );
      const at = crests.map((c) => c.nm).sort((a, b) => a - b);
      at.slice(1).forEach((nm, i) => expect(nm - at[i]!).toBeGreaterThanOrEqual(12));
      const [from, to] = combSpan(crests);
      for (const c of crests) expect(c.nm > from && c.nm < to).toBe(true);
      for (const c of crests) expect(c.top).toBeGreaterThan(0);
    },
  );

  test('the humps of levels add up to the mix', () => {
    for (const id of ['lib-nine', 'lib-five-step', 'lib-two-circuit']) {
      const kind = libraryLamp(id);
      const mix = Object.fromEntries(
        kind.controls.map((c, i) => [c.id, c.kind === 'onOff' ? i % 2 : 0.3 + 0.05 * i]),
      );
      const sum = zeroSpectrum();
      for (const c of crestsOf(kind, mix)) addScaled(sum, c.full, heightShare(c, mix[c.id]!));
      driven(kind, mix).forEach((v, i) => expect(sum[i]).toBeCloseTo(v, 9));
    }
  });

  test('brightness and tint: the hump is the light at this tint; the grip keeps its place while the tint moves', () => {
    const kind = libraryLamp('lib-tint');
    const [white, blue] = [0, 1].map((tint) => crestsOf(kind, { tint, brightness: 0.5 })[0]!);
    expect(white!.nm).toBe(blue!.nm);
    const mix = { tint: 1, brightness: 0.4 };
    driven(kind, mix).forEach((v, i) => expect(blue!.full[i]! * 0.4).toBeCloseTo(v, 9));
    expect(crestMix(kind, { tint: 0.2 })).not.toEqual(crestMix(kind, { tint: 0.3 }));
    expect(crestMix(demoPanel, { violet: 0.2 })).toEqual(crestMix(demoPanel, { violet: 0.9 }));
  });

  test('a trim stands between its lowest and highest factor', () => {
    const kind = libraryLamp('lib-balance');
    const mix = { balance: 0.5, 'violet-trim': 0.3, 'cyan-trim': 0.5, white: 0 };
    const trim = crestsOf(kind, mix).find((c) => c.id === 'violet-trim')!;
    const violet = channelLevels(kind, mix)[0]!;
    const full = keptSpectrum(kind.channels[0]!);
    expect(trim.full[60]! * heightShare(trim, 0.3)).toBeCloseTo(full[60]! * violet, 9);
    expect(heightShare(trim, 0)).toBeCloseTo(0.5 / 1.1, 9);
    expect(trim.caution).toBe(true);
  });
});
