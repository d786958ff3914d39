import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';

import { mixSpectrum } from '@/core/spectrum/lamp';
import { useDesk } from '@/state/desk';
import { carryQuery } from '@/state/solvers';

import { kindOf } from './candidates';

/** The first mix of a comparison, and the lamps that are to be as near it as they can, by their keys. */
export function useNear(keys: readonly string[], through: Float64Array) {
  const { doc, plate } = useDesk();
  const model = doc.plates.find((p) => keys.includes(`plate.${p.id}`)) ?? plate;
  const source = useMemo(() => {
    const kind = doc.lampKinds.find((k) => k.id === model?.lampKindId);
    return model && kind ? mixSpectrum(kind, model.mix) : null;
  }, [doc.lampKinds, model]);
  const asked = keys.flatMap((key) => {
    const kind = key.startsWith('near.') ? kindOf(doc, key.slice('near.'.length)) : undefined;
    return kind && source && model ? [{ key, query: carryQuery(model.id, source, kind, through) }] : [];
  });
  const found = useQueries({ queries: asked.map((a) => a.query) });
  const matches = Object.fromEntries(
    asked.flatMap(({ key }, i) => (found[i]!.data ? [[key, found[i]!.data!] as const] : [])),
  );
  return { model, matches };
}
