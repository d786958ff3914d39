import { parInField } from '@/core/optics/field';
import { type Desk } from '@/state/desk';
import { useSettings } from '@/state/settings';
import { Type } from '@/ui/Type';
import { ChartTable } from './ChartTable';
import { figureOf, signed } from './parts';
import { type TankLight } from './useTankLight';

/** The chart's layer in figures, for those who read tables. */
export function LayerTable({ desk, light }: { desk: Desk; light: TankLight }) {
  const { tank } = desk.zone;
  const depthCm = Math.round(useSettings((s) => s.tank.depth) * tank.depthCm);
  const { field } = light.field;
  const against = light.against;
  if (!field || (against && !against.field.field)) return <Type quiet>The light is being computed.</Type>;
  const figure = (x: number, y: number) => {
    const mine = parInField(field, x, y, depthCm, light.shares);
    if (!against) return figureOf(light.what, mine);
    const value = mine - parInField(against.field.field!, x, y, depthCm, against.shares);
    return signed(figureOf(light.what, Math.abs(value)), value);
  };
  return <ChartTable tank={tank} depthCm={depthCm} figure={figure} />;
}
