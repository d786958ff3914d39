import { View } from 'react-native';

import type { SwapAnswer } from '@/core/case/swap';
import { ceilingOf } from '@/core/record/needs';
import { plural } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';
import { lengthWords } from '@/core/shape/units';
import type { Desk } from '@/state/desk';
import { Row } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { mol, times, umol } from '../shared/words';
import { strengthWords } from './hangWords';

/** Each coral before and after, with the ratio as it takes light up. */
export function SwapTable({ found, desk: { zone } }: { found: SwapAnswer; desk: Desk }) {
  const a = found.lamps[0]!;
  return (
    <View style={{ gap: space.s }}>
      <Type testID="swap-how">
        {`${plural(found.lamps.length, 'lamp')} ${lengthWords(Math.round(a.heightCm))} up, ${found.lamps.map((l) => lengthWords(Math.round(l.xCm))).join(' and ')} from the left${strengthWords(found.kind, found.capShare)}. Its colours match to ${percent(found.match)}; the darkest place has ${percent(1 - found.uneven[1])} of the mean, before ${percent(1 - found.uneven[0])}.`}
      </Type>
      <View testID="swap-corals">
        {found.corals.map((c) => (
          <Row key={c.spot} style={{ minHeight: 44 }}>
            <View style={{ flex: 1 }}>
              <Type kind="label">{zone.spots[c.spot]!.name}</Type>
              <Type kind="small">{`${umol(c.before.peak)} → ${umol(c.after.peak)} µmol, ${mol(c.before.dli)} → ${mol(c.after.dli)} mol a day`}</Type>
            </View>
            <Type kind="strong" style={{ textAlign: 'right' }}>
              {`${times(c.step.ratio, c.bandShare)}${c.bandShare < 0.02 ? '' : ` ± ${percent(c.bandShare)}`}`}
            </Type>
          </Row>
        ))}
      </View>
      <Type kind="small">
        µmol are PAR; × is of light as each coral takes it up, so that other colours at equal µmol are told
        apart.
      </Type>
    </View>
  );
}

/** Who gains, who loses, and whether it is within what is to be changed at once. */
export function answerWords(a: SwapAnswer, zone: Desk['zone'], ceiling: number): string {
  const names = (of: readonly SwapAnswer['corals'][number][]) =>
    of.map((c) => zone.spots[c.spot]!.name).join(', ');
  const most = a.corals.reduce((x, y) => (y.step.ratio > x.step.ratio ? y : x), a.corals[0]!);
  if (!most) return 'Nobody here lives by light.';
  if (a.weak)
    return `These lamps give too little: ${names(a.corals.filter((c) => c.step.ratio < 0.9))} would get less than they had. More of them, or stronger ones, would do.`;
  const over = a.corals.filter((c) => c.step.ratio > ceilingOf(zone.spots[c.spot]!, ceiling));
  const less = a.corals.filter((c) => c.step.ratio < 0.8);
  const doubt = Math.max(...a.corals.map((c) => c.bandShare));
  const [low, high] = [Math.min(...a.corals.map((c) => c.step.ratio)), most.step.ratio].map((v) =>
    times(v, doubt),
  );
  return `As reckoned they would get ${low === high ? `about ${low}` : `${low} to ${high}`} of the light they have${doubt < 0.02 ? '' : ` (± ${percent(doubt)})`}.${over.length > 0 ? ` ${names(over)} would have to go lower or be eased in.` : ''}${less.length > 0 ? ` ${names(less)} would get less and may go higher.` : ''}`;
}
