import type { Channel, EmitterGroup, LampKind } from '@/core/spectrum/lamp';

/** Made-up photon tables (nm, relative photons): a cool phosphor white and a broad lime. */
const COOL_WHITE: [number, number][] = [[400,0.000024],[405,0.0000344],[410,0.0000486],[415,0.0000685],[420,0.000102],[425,0.00019],[430,0.00052],[435,0.00159],[440,0.00407],[445,0.00776],[450,0.0107],[455,0.0106],[460,0.00764],[465,0.0043],[470,0.0023],[475,0.00165],[480,0.00167],[485,0.0019],[490,0.00219],[495,0.0025],[500,0.00282],[510,0.00346],[520,0.00405],[530,0.00455],[540,0.00491],[550,0.00512],[560,0.00518],[570,0.00513],[580,0.00498],[590,0.00476],[600,0.00449],[610,0.00415],[620,0.00375],[630,0.00328],[640,0.00276],[650,0.00223],[660,0.00171],[670,0.00125],[680,0.00086],[690,0.000561],[700,0.000345],[710,0.0002],[720,0.000109],[730,0.0000561],[740,0.0000271],[750,0.0000124],[760,0.00000529],[770,0.00000213],[780,8.06e-7]];
const LIME: [number, number][] = [[420,0.0000634],[430,0.000206],[440,0.00109],[450,0.00274],[460,0.00235],[470,0.00161],[480,0.00211],[490,0.00308],[500,0.00427],[510,0.00559],[520,0.00689],[530,0.00802],[540,0.00881],[550,0.00913],[560,0.00893],[570,0.00824],[580,0.00717],[590,0.00589],[600,0.00457],[610,0.00334],[620,0.00231],[630,0.0015],[640,0.000924],[650,0.000536],[660,0.000293],[670,0.000152],[680,0.0000739],[690,0.000034],[700,0.0000148],[710,0.00000605],[720,0.00000234]];

const line = (id: string, name: string, peakNm: number, fwhmNm: number, count: number, wattsEach: number): Channel => ({
  id,
  name,
  groups: [{ light: { shape: 'line', peakNm, fwhmNm }, count, wattsEach }],
});
const table = (id: string, name: string, points: [number, number][], efficacyUmolPerJ: number, emitters: Omit<EmitterGroup, 'light'>): Channel => ({
  id,
  name,
  groups: [{ light: { shape: 'table', points, quantity: 'photon', efficacyUmolPerJ }, ...emitters }],
});

/** The demo's invented eight-channel panel. */
export const demoPanel: LampKind = {
  id: 'demo-panel',
  name: 'Eight-channel panel',
  channels: [
    line('near-uv', 'Near UV', 388, 12, 2, 1.5),
    line('violet', 'Violet', 419, 14, 8, 2),
    line('royal-blue', 'Royal blue', 451, 19, 14, 2.5),
    line('blue', 'Blue', 471, 22, 8, 2.5),
    line('cyan', 'Cyan', 498, 28, 4, 2),
    table('lime', 'Lime', LIME, 2.2, { count: 4, wattsEach: 2 }),
    table('cool-white', 'Cool white', COOL_WHITE, 2.25, { count: 6, wattsEach: 2.5 }),
    line('deep-red', 'Deep red', 661, 18, 2, 2),
  ],
  beamAngleDeg: 100,
  faceLengthCm: 44,
  faceWidthCm: 20,
  controller: { pointStepShare: 0.01, interpolation: 'ramp' },
};
