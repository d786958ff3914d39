import { useMemo } from 'react';

import { type Field, layerPar, sectionPar } from '@/core/optics/field';
import type { Tank } from '@/core/optics/tank';
import type { SoundingView } from '@/pieces/soundingShape';
import { useSame } from '@/ui/useSame';

import type { TankLight } from './useTankLight';

export type Views = Partial<Record<SoundingView['kind'], SoundingView>>;

/** What the charts of a tank draw: light from above at a depth, and cut lengthwise and across; of a difference what one has more. */
export function useViews(
  tank: Tank,
  { field: { field }, against, ...light }: TankLight,
  { depthCm, frontCm, leftCm }: { depthCm: number; frontCm: number; leftCm: number },
  airCm: number,
): Views {
  const differs = against !== null;
  const otherField = against?.field.field ?? null;
  const shares = useSame(light.shares);
  const otherShares = useSame(against?.shares ?? null);
  return useMemo((): Views => {
    if (!field || (differs && !otherField)) return {};
    const minus = (a: Float64Array, b: Float64Array | null) => (b ? a.map((v, i) => v - b[i]!) : a);
    const layer = (f: Field, shares: Float64Array) => layerPar(f, depthCm, shares);
    const { nx, ny, depthsCm } = field.grid;
    const cut = (along: 'x' | 'y', at: number) =>
      minus(
        sectionPar(field, along, at, shares).values,
        otherShares && otherField ? sectionPar(otherField, along, at, otherShares).values : null,
      );
    return {
      top: {
        kind: 'top',
        acrossCm: tank.lengthCm,
        downCm: tank.widthCm,
        airCm: 0,
        nx,
        ny,
        layered: false,
        // the front, where the keeper stands, is drawn below
        values: turnedOver(
          minus(layer(field, shares), otherShares && otherField ? layer(otherField, otherShares) : null),
          nx,
        ),
      },
      front: {
        kind: 'front',
        acrossCm: tank.lengthCm,
        downCm: tank.depthCm,
        airCm,
        nx,
        ny: depthsCm.length,
        layered: true,
        values: cut('x', frontCm),
      },
      side: {
        kind: 'side',
        acrossCm: tank.widthCm,
        downCm: tank.depthCm,
        airCm,
        nx: ny,
        ny: depthsCm.length,
        layered: true,
        values: cut('y', leftCm),
      },
    };
  }, [field, otherField, shares, otherShares, depthCm, frontCm, leftCm, airCm, tank, differs]);
}

/** Rows in the opposite order. */
function turnedOver(values: Float64Array, nx: number): Float64Array {
  const out = new Float64Array(values.length);
  for (let at = 0; at < values.length; at += nx)
    out.set(values.subarray(at, at + nx), values.length - nx - at);
  return out;
}
