import { hashKey } from '@tanstack/react-query';

import { keyText } from './keyText';

test('keys are told apart by what they say, not by which objects say it', () => {
  const tank = { lengthCm: 60, widthCm: 45 };
  const keys = [
    ['light', tank, 1],
    ['light', { ...tank, widthCm: 46 }, 1],
    ['light', [tank], 1],
    ['light', tank, '1'],
    ['light', tank],
    ['light,', tank, 1],
    ['light', null, undefined, 1],
    [['light', tank, 1]],
  ];
  keys.forEach((a, i) =>
    keys.forEach((b, j) => expect(keyText(a) === keyText(b)).toBe(hashKey(a) === hashKey(b) && i === j)),
  );
  expect(keyText(['light', { widthCm: 45, lengthCm: 60 }, 1])).toBe(keyText(keys[0]!));
});

test('what is the same object is written once', () => {
  const big = { list: Array.from({ length: 50 }, (_, i) => ({ i })) };
  const first = keyText(['x', big]);
  const write = jest.spyOn(JSON, 'stringify');
  expect(keyText(['x', big])).toBe(first);
  expect(write).toHaveBeenCalledTimes(1);
  write.mockRestore();
});
