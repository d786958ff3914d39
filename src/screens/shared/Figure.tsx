import { useMemo } from 'react';
import { View } from 'react-native';

import { xyzOf } from '@/core/colour/xyz';
import type { CoralForm } from '@/core/coral/form';
import type { AlgaId } from '@/core/feeding/algae';
import { lookerOf } from '@/core/portrait/lookers';
import { evenPalette } from '@/core/portrait/relight';
import { figureSurfaces } from '@/core/portrait/surfaces';
import { Portrait } from '@/pieces/Portrait';
import { useFigure } from '@/state/portrait';
import { useSettings } from '@/state/settings';
import { usePaper } from '@/ui/theme';

/** Pixels of a figure's scene for each of its own. */
const FINE = 2;

/** One coral or alga by itself, close, in the light of its place, its brightness evened so that colours can be judged. */
export function Figure({
  of,
  id,
  light,
  eyeLight = light,
  size,
  name,
}: {
  of: { form: CoralForm } | { algaId: AlgaId };
  /** whose: what it grew from */
  id: string;
  light: Float64Array;
  /** the light the eye has adapted to; default its own */
  eyeLight?: Float64Array;
  size: number;
  name: string;
}) {
  const { plateDim } = usePaper();
  const eye = useSettings((s) => s.look.eye);
  const degree = useSettings((s) => s.eyeDegree);
  const what = 'algaId' in of ? of : { shape: of.form.shape, form: of.form };
  const scene = useFigure(what, id, size * FINE);
  const colours = useMemo(() => {
    const [own, white] = [xyzOf(light)[1], xyzOf(eyeLight)[1]];
    const evened = own > 0 ? white / own : 0;
    return evenPalette(
      figureSurfaces('algaId' in of ? of : { form: of.form }),
      light.map((v) => v * evened),
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [light, eyeLight, 'algaId' in of ? of.algaId : of.form]);
  const looker = useMemo(
    () => lookerOf(eye, xyzOf(eyeLight), degree, plateDim),
    [eye, eyeLight, degree, plateDim],
  );
  return (
    <View style={{ width: size, height: size, backgroundColor: '#000000' }} role="img" aria-label={name}>
      {scene && scene.surfaces.length * 15 === colours.length && (
        <Portrait {...{ scene, colours, looker }} width={size} height={size} />
      )}
    </View>
  );
}
