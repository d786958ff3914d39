import type { newCase } from '@/core/case/firstDay';
import { lampLibrary } from '@/core/library/lamps';
import { plainTank } from '@/core/optics/tank';
import { NEEDS } from '@/core/record/needs';
import { plainSpot } from '@/core/record/zone';

/** What a tank is begun with where nothing is measured yet: each answer is one of a few, and each has a usual one. */
export interface PlainAnswers {
  size: string;
  kindId: string;
  lamps: string;
  heightCm: string;
  corals: string;
  need: 'soft' | 'largePolyp' | 'smallPolyp';
  where: 'sand' | 'middle' | 'top';
  under: 'unknown' | 'thisLamp';
}

export const SIZES = [
  ...['30 × 30 × 30', '45 × 30 × 30', '60 × 40 × 40', '75 × 45 × 45'],
  ...['90 × 45 × 45', '120 × 50 × 50', '150 × 60 × 50', '180 × 70 × 60'],
] as const;
export const HEIGHTS_CM = ['10', '15', '20', '25', '30', '40', '60'] as const;
export const COUNTS = ['1', '2', '3', '4', '6'] as const;
/** Where corals stand, in words and as a share of the depth. */
export const WHERE = {
  sand: { label: 'near the sand', share: 0.85 },
  middle: { label: 'half way up', share: 0.55 },
  top: { label: 'near the surface', share: 0.3 },
} as const;
/** Lamps that are hung over a display. */
export const startLamps = () => lampLibrary().filter((l) => !/refugium/i.test(l.kind.name));

export const USUAL_START: PlainAnswers = {
  size: '60 × 40 × 40',
  kindId: 'lib-nine-half',
  lamps: '1',
  heightCm: '20',
  corals: '2',
  need: 'soft',
  where: 'middle',
  under: 'unknown',
};

/** A first case from these answers: lamps side by side, corals in a row half way from pane to pane. */
export function caseFrom(
  a: PlainAnswers,
  of: Pick<Parameters<typeof newCase>[0], 'id' | 'name' | 'timeZone' | 'lights'>,
): Parameters<typeof newCase>[0] {
  const [length, width, depth] = a.size.split('×').map((v) => Number(v.trim())) as [number, number, number];
  const tank = plainTank(length, width, depth);
  const along = (i: number, of: number) => Math.round((length * (i + 0.5) * 10) / of) / 10;
  const lamps = Number(a.lamps);
  const corals = Number(a.corals);
  return {
    ...of,
    tank,
    kind: startLamps().find((l) => l.kind.id === a.kindId)!.kind,
    lamps: Array.from({ length: lamps }, (_, i) => ({
      id: of.id(),
      name: lamps === 1 ? 'lamp' : lamps === 2 ? ['left', 'right'][i]! : `lamp ${i + 1}`,
      xCm: along(i, lamps),
      yCm: width / 2,
      heightCm: Number(a.heightCm),
      turnDeg: 0,
    })),
    spots: Array.from({ length: corals }, (_, i) =>
      plainSpot({
        id: of.id(),
        name: corals === 1 ? 'First coral' : `Coral ${i + 1}`,
        xCm: along(i, corals),
        yCm: Math.round(width / 2),
        depthCm: Math.round(depth * WHERE[a.where].share),
        need: a.need,
      }),
    ),
    usedTo: a.under === 'thisLamp',
  };
}

export const needWords = (need: PlainAnswers['need'], many: boolean): string =>
  many ? `${NEEDS[need].name}s` : NEEDS[need].name;
