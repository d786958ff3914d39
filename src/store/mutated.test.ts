import { displayCase } from '@/demo/lagoon';

import { lampLibrary } from '@/core/library/lamps';
import { keptSpectrum } from '@/core/spectrum/lamp';
import { seeded } from '@/core/spectrum/random';
import { parseDayCsv } from '@/core/formats/dayCsv';
import { readEntriesCsv } from '@/core/formats/entriesCsv';
import { parseIes } from '@/core/formats/ies';
import { parseReadingsCsv } from '@/core/formats/readingsCsv';
import { parseSpdx } from '@/core/formats/spdx';
import { parseSpectrumCsv } from '@/core/formats/spectrumCsv';

import { exportText, importText, readFile } from '@/core/record/caseFile';

const bundle = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = bundle.case.zones[0]!;
const spectrum = keptSpectrum(lampLibrary()[0]!.kind.channels[0]!);
const points = Array.from(spectrum, (v, i) => [380 + i, v] as const).filter((_, i) => i % 5 === 0);

/** A file of each kind as it should be. */
const GOOD: Record<string, { text: string; read: (text: string) => unknown }> = {
  spectrum: {
    text: `nm;photons\n${points.map(([nm, v]) => `${nm};${v.toFixed(5)}`).join('\n')}\n`,
    read: parseSpectrumCsv,
  },
  'TM-27': {
    text: `<?xml version="1.0"?><IESTM2714 xmlns="iestm2714" version="1.0"><Header><Description>x</Description></Header><SpectralDistribution><SpectralQuantity>flux</SpectralQuantity>${points.map(([nm, v]) => `<SpectralData wavelength="${nm}">${v.toFixed(5)}</SpectralData>`).join('')}</SpectralDistribution></IESTM2714>`,
    read: parseSpdx,
  },
  day: { text: 'time;Blue (%);White (%)\n08:00;0;0\n12:00;80;35\n20:00;0;0\n', read: parseDayCsv },
  readings: {
    text: 'name,x (cm),y (cm),depth (cm),PAR (µmol)\nCopper table,40,32,17,230\nPlum table,104,26,15,260\n',
    read: parseReadingsCsv,
  },
  entries: {
    text: 'instant (UTC),kind,coral,what,part,seen by,hue,of,nitrate (ppm),note\n2026-11-20T12:00:00.000Z,test,,,,,,,7,fine\n2026-11-20T12:00:00.000Z,sign,Copper table,paling,tips,eye,,,,\n',
    read: (text) => readEntriesCsv(text, zone, () => 'id'),
  },
  photometry: {
    text: 'IESNA:LM-63-2002\n[TEST] x\nTILT=NONE\n1 1000 1 5 1 1 2 0.4 0.2 0\n1 1 50\n0 22.5 45 67.5 90\n0\n300 280 200 80 0\n',
    read: parseIes,
  },
  'case file': { text: exportText(bundle), read: importText },
  'whatever this app gave out': { text: exportText(bundle), read: readFile },
};
const PIECES = [
  '',
  '0',
  '-1',
  '1e999',
  'NaN',
  '"',
  ',',
  ';',
  '\n',
  '\t',
  '{',
  '}',
  '[',
  ']',
  'null',
  '<',
  '>',
  '&x;',
  '\u0000',
  '\ufeff',
  'ä',
  '__proto__',
  'toString',
  '99999999999999999999',
];

/** Every number of a value that was taken is one. */
function sound(value: unknown, path = ''): void {
  if (typeof value === 'number' && !Number.isFinite(value)) throw new Error(`${path} is ${value}`);
  if (value && typeof value === 'object')
    for (const [key, v] of Object.entries(value)) sound(v, `${path}.${key}`);
}

test.each(Object.keys(GOOD))(
  '500 changed files of one kind (seeded): %s is read or refused, in time, and nothing is touched',
  (name) => {
    const { text, read } = GOOD[name]!;
    const random = seeded(name.length * 7919);
    const below = (n: number) => Math.floor(random() * n);
    const proto = Object.keys(Object.prototype).length;
    let taken = 0;
    for (let i = 0; i < 500; i += 1) {
      let changed = text;
      for (let k = 1 + below(3); k > 0; k -= 1) {
        const at = below(changed.length);
        const cut = random() < 0.5 ? below(Math.min(12, changed.length - at) + 1) : 0;
        changed = changed.slice(0, at) + PIECES[below(PIECES.length)]! + changed.slice(at + cut);
      }
      const began = performance.now();
      const got = read(changed) as { ok?: boolean; value?: unknown };
      expect(performance.now() - began).toBeLessThan(2000);
      if (got.ok) {
        taken += 1;
        sound(got.value);
      }
    }
    expect(Object.keys(Object.prototype)).toHaveLength(proto);
    // not everything is refused: what is harmless goes through
    expect(taken).toBeGreaterThan(0);
    expect(taken).toBeLessThan(500);
  },
);

test('as they are they are read', () => {
  for (const [name, { text, read }] of Object.entries(GOOD))
    expect([name, (read(text) as { ok: boolean }).ok]).toEqual([name, true]);
});
