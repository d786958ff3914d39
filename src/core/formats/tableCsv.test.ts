import Papa from 'papaparse';

import { tableCsv } from './tableCsv';

test('a table comes back as it was; what a spreadsheet would run is a text, what is not known is empty', () => {
  const text = tableCsv(
    ['day', '=1+1', 'a "name", and more'],
    [
      ['Tue 24 Nov', 1.25, -3],
      ['-x', null, NaN],
    ],
  );
  expect(text.endsWith('\r\n')).toBe(true);
  expect(Papa.parse<string[]>(text.trim()).data).toEqual([
    ['day', "'=1+1", 'a "name", and more'],
    ['Tue 24 Nov', '1.25', '-3'],
    ["'-x", '', ''],
  ]);
});
