import { render, screen } from '@testing-library/react';

import { reflected, seeUnder } from '@/core/colour/look';
import { ALGAE, alga } from '@/core/feeding/algae';
import { FAMILIES, familyLight } from '@/core/refugium/families';
import { plainDaylight } from '@/core/refugium/growth';
import { algaReflectance } from '@/core/refugium/look';
import { zeroSpectrum } from '@/core/spectrum/grid';

import { AlgaFigure } from './AlgaFigure';
import { algaLayers } from './algaShapes';
import { TankPlate } from './TankPlate';
import { NightAxis, NightField } from './TwoNights';
import { WaterCourse } from './WaterCourse';
import { weavePixels } from './weaveShape';

describe('drawn algae', () => {
  test('every kind has shapes of its own, inside its box, made of numbers', () => {
    const drawings = ALGAE.map((a) => {
      const layers = algaLayers(a.id);
      expect(layers.length).toBeGreaterThan(2);
      expect(new Set(layers.map((l) => l.tone)).size).toBeGreaterThan(1);
      for (const l of layers) {
        expect(l.d).not.toMatch(/NaN|Infinity/);
        // absolute places stay near the box
        for (const [, x, y] of l.d.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)) {
          expect(Number(x)).toBeGreaterThan(-3);
          expect(Number(x)).toBeLessThan(103);
          expect(Number(y)).toBeGreaterThan(2);
          expect(Number(y)).toBeLessThan(104);
        }
      }
      return layers.map((l) => l.d).join();
    });
    expect(new Set(drawings).size).toBe(ALGAE.length);
    expect(algaLayers('redLeaf')).toBe(algaLayers('redLeaf'));
  });

  test('their colour comes from their pigments: greens look green, reds red, browns brown in daylight', () => {
    const day = seeUnder(plainDaylight())!;
    const rgb = (id: Parameters<typeof alga>[0]) =>
      day.colour(reflected(plainDaylight(), algaReflectance(alga(id))), 1);
    const [r, g, b] = rgb('greenTangle');
    expect(g).toBeGreaterThan(r);
    expect(g).toBeGreaterThan(b);
    const red = rgb('redLeaf');
    expect(red[0]).toBeGreaterThan(1.2 * red[1]);
    const brown = rgb('brownBlade');
    expect(brown[0]).toBeGreaterThan(brown[2]);
    expect(brown[0]).toBeGreaterThan(red[2] * 0.5);
    for (const a of ALGAE)
      algaReflectance(a).forEach((v) => {
        expect(v).toBeGreaterThan(0);
        expect(v).toBeLessThan(1);
      });
  });

  test('in blue light a green is dark against the water; without light everything is black', () => {
    const blue = familyLight(FAMILIES.find((f) => f.id === 'blue')!);
    const { rerender, container } = render(
      <AlgaFigure alga={alga('greenTangle')} light={blue} size={80} name="green in blue" />,
    );
    expect(screen.getByRole('img', { name: 'green in blue' })).toBeTruthy();
    const lit = [...container.querySelectorAll('path')].map((p) => p.getAttribute('stroke'));
    rerender(<AlgaFigure alga={alga('greenTangle')} light={zeroSpectrum()} size={80} name="in the dark" />);
    const dark = [...container.querySelectorAll('path')].map((p) => p.getAttribute('stroke'));
    expect(new Set(dark)).toEqual(new Set(['#000000']));
    expect(lit).not.toEqual(dark);
  });
});

describe('algae in the tank', () => {
  const day = plainDaylight();
  const mat = (id: Parameters<typeof alga>[0], wide: number, light = day) => ({
    id,
    name: id,
    alga: alga(id),
    across: 0.5,
    down: 0.3,
    back: 0.5,
    wide,
    light,
  });
  const draw = (algae: ReturnType<typeof mat>[]) => {
    const { container, unmount } = render(
      <TankPlate light={day} corals={[]} algae={algae} fish={false} width={360} name="tank" />,
    );
    const paths = [...container.querySelectorAll('path')];
    unmount();
    return paths.map(
      (p) => [p.getAttribute('d')!, p.getAttribute('stroke') ?? p.getAttribute('fill')!] as const,
    );
  };

  test('a mat is as many clumps as it is wide, none where nothing grows', () => {
    const own = new Set(algaLayers('greenTangle').map((l) => l.d));
    const clumps = (wide: number) =>
      draw([mat('greenTangle', wide)]).filter(([d]) => own.has(d)).length / own.size;
    expect(draw([]).filter(([d]) => own.has(d))).toEqual([]);
    expect(clumps(0)).toBe(1);
    expect(clumps(0.85)).toBeGreaterThan(clumps(0.4));
    expect(clumps(0.4)).toBeGreaterThan(1);
  });

  test('each in the colour of its pigments; a dimmer place is shown as light as the card', () => {
    const lit = algaLayers('redLeaf').findLast((l) => l.tone === 0)!.d;
    const colourOf = (light: Float64Array) => draw([mat('redLeaf', 0, light)]).find(([d]) => d === lit)![1];
    expect(colourOf(day)).toMatch(/^#|^rgb/);
    expect(colourOf(day.map((v) => v * 0.2))).toBe(colourOf(day));
    expect(colourOf(zeroSpectrum())).not.toBe(colourOf(day));
  });
});

describe('two nights and the course of the water', () => {
  test('a field says when it is lit; the same minute of both days looks the same', () => {
    HTMLCanvasElement.prototype.getContext = (() => null) as never;
    const full = [Float64Array.from({ length: 421 }, (_, i) => (i === 300 ? 1 : 0))];
    const sources = [{ full, levelsAt: (m: number) => [m >= 1230 || m < 510 ? 1 : 0] }];
    render(
      <NightField
        row={{
          id: 'z',
          name: 'Sump',
          sources,
          lit: [
            { from: 0, to: 510 },
            { from: 1230, to: 1440 },
          ],
        }}
        fromMinute={840}
        nowMinute={900}
        width={320}
      />,
    );
    expect(screen.getByRole('img', { name: 'Sump: lit 00:00 to 08:30, 20:30 to 24:00' })).toBeTruthy();
    const pixels = weavePixels(sources, 192, (c) => (840 + ((c + 0.5) / 192) * 2880) % 1440, 1);
    const row = (c: number) => Array.from(pixels.slice(c * 4, c * 4 + 4));
    for (let c = 0; c < 96; c += 7) expect(row(c)).toEqual(row(c + 96));
    render(
      <NightField
        row={{ id: 'd', name: 'Dry', sources: null, lit: [] }}
        fromMinute={0}
        nowMinute={null}
        width={320}
      />,
    );
    expect(screen.getByRole('img', { name: 'Dry: always dark' })).toBeTruthy();
  });

  test('the clock under the fields marks every six hours of two days', () => {
    const { container } = render(<NightAxis fromMinute={840} width={320} />);
    const marks = [...container.querySelectorAll('text')].map((t) => t.textContent);
    expect(marks).toEqual(['18:00', '00:00', '06:00', '12:00', '18:00', '00:00', '06:00', '12:00']);
  });

  test('tests and harvests are drawn; what was not tested is said', () => {
    const { container, rerender } = render(
      <WaterCourse
        nitrate={[
          { daysAgo: 30, value: 12 },
          { daysAgo: 2, value: 8.5 },
        ]}
        phosphate={[]}
        harvests={[{ daysAgo: 10, wetG: 120 }]}
        days={35}
        dateOf={(d) => `day ${d}`}
        width={340}
        name="course"
      />,
    );
    const words = [...container.querySelectorAll('text')].map((t) => t.textContent);
    expect(words).toEqual(
      expect.arrayContaining(['nitrate, ppm', '12', '8.5', 'phosphate, ppm: not tested', 'day 35', 'today']),
    );
    expect(container.querySelectorAll('circle')).toHaveLength(2);
    rerender(
      <WaterCourse
        nitrate={[]}
        phosphate={[]}
        harvests={[]}
        days={14}
        dateOf={String}
        width={340}
        name="course"
      />,
    );
    expect(container.querySelectorAll('circle')).toHaveLength(0);
    expect(container.innerHTML).not.toContain('NaN');
  });
});
