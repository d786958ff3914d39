import { formatTime, parseTypedTime } from '../day/clock';
import { doubtOf, measured, MEASURES } from '../record/log/measures';
import { lengthRange, lengthWords, METRIC, sayIn, sizeWords, temperatureFigure, volumeWords } from './units';

afterEach(() => sayIn(METRIC));

test('lengths, sizes and volumes in centimetres and litres, in inches and gallons', () => {
  const all = () => [
    lengthWords(30.4),
    lengthWords(30.44, true),
    sizeWords(150, 60, 45.5),
    lengthRange(5, 1000),
    volumeWords(420),
    volumeWords(7.56),
  ];
  expect(all()).toEqual(['30 cm', '30.4 cm', '150 × 60 × 45.5 cm', '5 to 1000 cm', '420 l', '7.6 l']);
  sayIn({ ...METRIC, length: 'in', volume: 'gal' });
  expect(all()).toEqual(['12 in', '12 in', '59.1 × 23.6 × 17.9 in', '2 to 393.7 in', '111 gal', '2 gal']);
  // both ends of a range can be given
  expect(2 * 2.54).toBeGreaterThanOrEqual(5);
  expect(393.7 * 2.54).toBeLessThanOrEqual(1000);
});

test('temperatures in Celsius or Fahrenheit; a test of the water says them so, and nothing else moves', () => {
  const temperature = MEASURES.find((m) => m.id === 'temperatureC')!;
  expect([temperatureFigure(25.6), measured(temperature, 25.6)]).toEqual([25.6, '25.6 °C']);
  sayIn({ ...METRIC, temperature: '°F' });
  expect([0, 25.5556, 100].map(temperatureFigure)).toEqual([32, 78, 212]);
  expect(measured(temperature, 25.5556)).toBe('78 °F');
  expect(doubtOf(temperature, 12, null)).toMatch(/^temperature is rarely 53\.6 °F /);
  expect(
    measured(
      MEASURES.find((m) => m.id === 'calciumPpm')!,
      420,
    ),
  ).toBe('420 ppm');
});

test('times of day by 24 or 12 hours; both are read, whichever is said', () => {
  const minutes = [0, 5, 720, 845, 1439];
  expect(minutes.map((m) => formatTime(m))).toEqual(['00:00', '00:05', '12:00', '14:05', '23:59']);
  sayIn({ ...METRIC, clock: '12 h' });
  const twelve = ['12:00 am', '12:05 am', '12:00 pm', '2:05 pm', '11:59 pm'];
  expect(minutes.map((m) => formatTime(m))).toEqual(twelve);
  expect(twelve.map(parseTypedTime)).toEqual(minutes);
  expect(['2 pm', '2:05PM', '2.05 p.m.', '12a', '1405', '14:05'].map(parseTypedTime)).toEqual([
    840, 845, 845, 0, 845, 845,
  ]);
  for (const none of ['13:00 pm', '0:30 am', '2:65 pm', 'pm', '2 xm'])
    expect(parseTypedTime(none)).toBeNull();
});
