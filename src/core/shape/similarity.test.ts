import { AS_IT_IS, type At, laid, similarity } from './similarity';

test('two points are laid onto two others, and all others go with them', () => {
  const turn = (p: At): At => {
    const [c, s] = [Math.cos(0.3), Math.sin(0.3)];
    return { x: 1.4 * (c * p.x - s * p.y) + 0.1, y: 1.4 * (s * p.x + c * p.y) - 0.2 };
  };
  const points: At[] = [
    { x: 0.2, y: 0.3 },
    { x: 0.7, y: 0.5 },
    { x: 0.1, y: 0.9 },
  ];
  const by = similarity([points[0]!, points[1]!], [turn(points[0]!), turn(points[1]!)]);
  for (const p of points) {
    expect(laid(by, p).x).toBeCloseTo(turn(p).x, 12);
    expect(laid(by, p).y).toBeCloseTo(turn(p).y, 12);
  }
  expect(Math.hypot(by.a, by.b)).toBeCloseTo(1.4, 12);
  expect(similarity([points[0]!, points[0]!], [points[1]!, points[2]!])).toEqual(AS_IT_IS);
  expect(similarity([points[0]!, points[1]!], [points[2]!, points[2]!])).toEqual(AS_IT_IS);
});
