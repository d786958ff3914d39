import { lengthWords } from '@/core/shape/units';
import { useSame } from '@/ui/useSame';
import { View } from 'react-native';

import { rigKey } from '@/core/case/lit';
import { blending, evenness, lostShare, onGlass } from '@/core/optics/evenness';
import { layerAt, layerPar, PANES, parInField } from '@/core/optics/field';
import { lightOnParts } from '@/core/coral/sides';
import { sentUp, type Sides } from '@/core/optics/sides';
import { shapeOf } from '@/core/portrait/ofZone';
import type { ShapeId } from '@/core/coral/form';
import type { Desk } from '@/state/desk';
import { useSettings } from '@/state/settings';
import { atPlaceQuery } from '@/state/hanging';
import { useQuery } from '@tanstack/react-query';
import { parUnder } from '@/core/case/light';
import { channelOfRow, sharesAt } from '@/core/case/rows';
import { usePageSize } from '@/ui/Page';
import { Fold, Row } from '@/ui/Parts';
import { Rail } from '@/ui/Rail';
import { Type } from '@/ui/Type';
import { useMemo } from 'react';

import { percent } from '@/core/shape/percent';
import { figureOf, unitOf } from './parts';
import { chooseTank, type TankLight } from './useTankLight';

/** Light on the parts of a coral: "tips 180, flanks 60". Two digits: it is an estimate. */
const partsWords = (sides: Sides, shape: ShapeId | null): string =>
  lightOnParts(shape, sides)
    .map(({ part, umol }) => `${part} ${umol < 10 ? Math.round(umol) : Number(umol.toPrecision(2))}`)
    .join(', ');

/** How light is spread over the chart's depth, what is lost, and how well colours are blended. */
export function EvennessSection({ desk, light, open }: { desk: Desk; light: TankLight; open: boolean }) {
  const { doc, zone, spot, spotIndex } = desk;
  const chosen = useSettings((s) => s.tank);
  const page = usePageSize();
  const field = light.field.field;
  const depthCm = Math.round(chosen.depth * zone.tank.depthCm);
  const channels = useMemo(() => channelOfRow(light.groups), [light.groups]);
  const shares = useSame(light.shares);
  const { groups, cal } = light;
  const found = useMemo(() => {
    if (!field || field.rows !== shares.length) return null;
    const layer = layerAt(field.grid.depthsCm, depthCm);
    return {
      spread: evenness(layerPar(field, depthCm, shares), chosen.bound),
      blend: blending(field, Math.round(layer[0] + layer[1]), shares, channels),
      lost: lostShare(field, shares),
      glass: onGlass(field, shares),
    };
  }, [field, shares, depthCm, chosen.bound, channels]);
  const at = useSame(sharesAt(groups, light.minute, cal));
  const umol = light.light && spot ? parUnder(light.light, light.levels, spotIndex) : 0;
  const up =
    field && spot
      ? sentUp(zone.tank.floorReflectance, parInField(field, spot.xCm, spot.yCm, zone.tank.depthCm, at))
      : 0;
  const { data: ripple = null } = useQuery({
    ...atPlaceQuery(
      [rigKey(groups, zone, zone.spots, cal), zone.rippleSlope],
      zone,
      groups,
      cal,
      spotIndex,
      at,
      umol,
      up,
    ),
    enabled: spot !== null && umol > 0,
  });
  // its place is kept until it is there: what lies below does not move under a finger
  if (!found && groups.length > 0 && !light.field.error)
    return (
      <Fold title="Evenness: not known yet" open={open} testID="evenness-fold">
        <Type quiet>
          {light.field.progress === null
            ? 'The light of the tank is not computed yet.'
            : 'The light of the tank is being computed.'}
        </Type>
      </Fold>
    );
  if (!found?.spread) return null;
  const { spread, blend, lost, glass } = found;
  const f = (v: number) => figureOf(light.what, v);
  const rows: [name: string, value: string, hint: string][] = [
    [
      'Mean',
      `${f(spread.mean)} ${unitOf(light.what)}`,
      `${lengthWords(depthCm, true)} deep; half of the cells lie below ${f(spread.median)}`,
    ],
    [
      'Standard deviation',
      `${f(spread.sd)} ${unitOf(light.what)}`,
      `coefficient of variation ${percent(spread.cv)}`,
    ],
    ['Uniformity', percent(spread.uniformity), `least ${f(spread.min)} over mean; most ${f(spread.max)}`],
    [
      'Hot and cold',
      `▲ ${percent(spread.hot)}  ▽ ${percent(spread.cold)}`,
      `of the cells, beyond ± ${percent(chosen.bound)} of the mean`,
    ],
    ['Lost light', percent(lost), 'of the lamps’ photons never enter the water'],
    [
      'On the glass',
      light.what === 'dli'
        ? `${Math.max(...glass).toFixed(1)} mol`
        : `${Math.round(Math.max(...glass))} µmol`,
      `most on the ${PANES[glass.indexOf(Math.max(...glass))]} pane, straight light alone: algae grow there`,
    ],
    [
      'Blending',
      `${blend.meanDeg.toFixed(1)}°`,
      `mean angle of a cell’s mix from the layer’s; most ${blend.maxDeg.toFixed(1)}°`,
    ],
    ...(ripple === null
      ? []
      : [
          [
            'Ripple-blend',
            `${ripple.blendDeg.toFixed(1)}°`,
            `how far colour flickers at ${spot!.name} under this surface (estimate)`,
          ] as [string, string, string],
          [
            'From all sides',
            `${(ripple.sides.scalar / Math.max(1e-9, ripple.sides.down)).toFixed(1)} ×`,
            `of what falls on ${spot!.name} from above. Its parts get, in µmol: ${partsWords(ripple.sides, shapeOf(doc, spot!))} (estimate)`,
          ] as [string, string, string],
          [
            'Flashes',
            `${Math.round(ripple.flashUmol)} µmol`,
            `what ripples bring now and then to ${spot!.name}, one moment in twenty more; ± ${percent(ripple.cv)} all the time (estimate)`,
          ] as [string, string, string],
        ]),
  ];
  return (
    <Fold
      title={`Evenness: the darkest place has ${percent(spread.uniformity)} of the mean`}
      open={open}
      testID="evenness-fold"
    >
      <View testID="evenness">
        {rows.map(([name, value, hint]) => (
          <Row key={name} style={{ minHeight: 44 }}>
            <View style={{ flex: 1 }}>
              <Type kind="label">{name}</Type>
              <Type kind="small">{hint}</Type>
            </View>
            <Type kind="strong">{value}</Type>
          </Row>
        ))}
      </View>
      <Rail
        label="Hot or cold beyond"
        value={Math.round(chosen.bound * 100)}
        min={5}
        max={60}
        step={1}
        valueText={`± ${percent(chosen.bound)}`}
        width={page.side}
        onChange={(v) => chooseTank({ bound: v / 100 })}
      />
    </Fold>
  );
}
