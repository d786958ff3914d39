import { Balance } from '@/pieces/Balance';
import { Row } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { times } from './words';

/** A coral's step against what it is used to: its scale and its figure, the same wherever steps are listed. */
export function RatioRow({
  name,
  ratio,
  ceiling,
  after,
  testID,
}: {
  name: string;
  ratio: number;
  ceiling: number;
  /** what it becomes */
  after?: number | null;
  testID?: string;
}) {
  const becomes = after === undefined || after === null ? '' : ` → ${times(after)}`;
  return (
    <Row style={{ minHeight: 44 }}>
      <Type kind="label" style={{ flex: 1 }}>
        {name}
      </Type>
      <Balance ratio={ratio} ceiling={ceiling} />
      <Type kind="strong" style={{ width: becomes ? 130 : 64, textAlign: 'right' }} testID={testID}>
        {`${times(ratio)}${becomes}`}
      </Type>
    </Row>
  );
}
