import { View } from 'react-native';

import { Balance } from '@/pieces/Balance';
import { Row } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { giveOrTake, times, timesOf } from './words';

/** A coral's step against what it is used to: its scale and its figure, the same wherever steps are listed. */
export function RatioRow({
  name,
  ratio,
  bandShare,
  ceiling,
  after,
  testID,
}: {
  name: string;
  ratio: number;
  /** half the width of its 90 % band, as a share */
  bandShare: number;
  ceiling: number;
  /** what it becomes */
  after?: number | null;
  testID?: string;
}) {
  const becomes = after === undefined || after === null ? '' : ` → ${times(after)}`;
  const band = giveOrTake(bandShare);
  return (
    <Row style={{ minHeight: 44 }}>
      <Type kind="label" style={{ flex: 1 }}>
        {name}
      </Type>
      <Balance ratio={ratio} ceiling={ceiling} />
      <View style={{ width: becomes ? 130 : 64, alignItems: 'flex-end' }}>
        <Type kind="strong" testID={testID}>
          {`${timesOf({ ratio, bandShare, ceiling })}${becomes}`}
        </Type>
        {band !== '' && <Type kind="small">{band}</Type>}
      </View>
    </Row>
  );
}
