import { render, screen } from '@testing-library/react';

import { NightAxis, NightField } from './TwoNights';
import { WaterCourse } from './WaterCourse';
import { weavePixels } from './weaveShape';

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
    expect([...container.querySelectorAll('text')].map((t) => t.textContent)).toContain(
      'harvests: none weighed',
    );
    expect(container.querySelectorAll('circle')).toHaveLength(0);
    expect(container.innerHTML).not.toContain('NaN');
  });
});
