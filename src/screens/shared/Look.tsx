import { useMemo } from 'react';

import { LookPlate } from '@/pieces/LookPlate';
import { type SceneAlga, type SceneCoral, TankPlate } from '@/pieces/TankPlate';
import { useSettings } from '@/state/settings';

/** Height of the picture of a tank of so many pixels across: what waits for it keeps its place. */
export const lookHeight = (width: number): number => Math.round(width * 0.345);

/** The tank under a light: its own corals where their forms are known, and its algae; else a white card, sand and rock. */
export function Look({
  light,
  scene,
  width,
  dim,
  at,
}: {
  light: Float64Array;
  scene: { corals: readonly SceneCoral[]; algae: readonly SceneAlga[] };
  width: number;
  dim: number;
  /** where it is seen, for reading aloud */
  at: string;
}) {
  const eyeDegree = useSettings((s) => s.eyeDegree);
  const fish = useSettings((s) => s.fish);
  const eye = useMemo(() => ({ degree: eyeDegree ?? undefined }), [eyeDegree]);
  return scene.corals.length + scene.algae.length > 0 ? (
    <TankPlate
      light={light}
      corals={scene.corals}
      algae={scene.algae}
      // where nothing but algae lives nobody keeps fish to be looked at
      fish={fish && scene.corals.length > 0}
      width={width}
      eye={eye}
      dim={dim}
      name={`The tank with its ${[scene.corals.length > 0 && 'corals', scene.algae.length > 0 && 'algae'].filter(Boolean).join(' and ')}, white card, sand and rock, seen at ${at}`}
    />
  ) : (
    <LookPlate
      light={light}
      width={width}
      height={Math.round(width * 0.25)}
      eye={eye}
      dim={dim}
      name={`White card, sand and grey rock at ${at}`}
    />
  );
}
