import { useMemo } from 'react';

import { LookPlate } from '@/pieces/LookPlate';
import { type SceneCoral, TankPlate } from '@/pieces/TankPlate';
import { useSettings } from '@/state/settings';

/** The tank under a light: its own corals where their forms are known, else a white card, sand and rock. */
export function Look({
  light,
  scene,
  width,
  dim,
  at,
}: {
  light: Float64Array;
  scene: readonly SceneCoral[];
  width: number;
  dim: number;
  /** where it is seen, for reading aloud */
  at: string;
}) {
  const eyeDegree = useSettings((s) => s.eyeDegree);
  const fish = useSettings((s) => s.fish);
  const eye = useMemo(() => ({ degree: eyeDegree ?? undefined }), [eyeDegree]);
  return scene.length > 0 ? (
    <TankPlate
      light={light}
      corals={scene}
      fish={fish}
      width={width}
      eye={eye}
      dim={dim}
      name={`The tank with its corals, white card, sand and rock, seen at ${at}`}
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
