import { View } from 'react-native';

import { Balance } from '@/pieces/Balance';
import { inWords } from '@/core/shape/counts';
import { Fold, Row } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { giveOrTake, times, timesOf } from './words';

interface Ratio {
  name: string;
  ratio: number;
  /** half the width of its 90 % band, as a share */
  bandShare: number;
  ceiling: number;
  /** what it becomes */
  after?: number | null;
  testID?: string;
}

/** So many stand in sight; the others, who mind less, are a key away. */
const IN_SIGHT = 8;

/** Corals' steps against what each is used to, first who minds most. */
export function RatioRows({ rows }: { rows: readonly (Ratio & { id: string })[] }) {
  const list = (some: typeof rows) => some.map(({ id, ...row }) => <RatioRow key={id} {...row} />);
  const others = rows.slice(IN_SIGHT);
  return (
    <>
      {list(others.length > 1 ? rows.slice(0, IN_SIGHT) : rows)}
      {others.length > 1 && (
        <Fold title={`The other ${inWords(others.length)}`} testID="other-ratios">
          <View>{list(others)}</View>
        </Fold>
      )}
    </>
  );
}

/** A coral's step against what it is used to: its scale and its figure. */
function RatioRow({ name, ratio, bandShare, ceiling, after, testID }: Ratio) {
  const becomes = after === undefined || after === null ? '' : ` → ${times(after)}`;
  const band = giveOrTake(bandShare);
  return (
    <Row style={{ minHeight: 44 }}>
      <Type kind="label" style={{ flex: 1 }}>
        {name}
      </Type>
      <Balance ratio={ratio} ceiling={ceiling} />
      <View style={{ minWidth: becomes ? 130 : 64, alignItems: 'flex-end' }}>
        <Type kind="strong" testID={testID} numberOfLines={1}>
          {`${timesOf({ ratio, bandShare, ceiling })}${becomes}`}
        </Type>
        {band !== '' && <Type kind="small">{band}</Type>}
      </View>
    </Row>
  );
}
