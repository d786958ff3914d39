import { memo } from 'react';
import { View } from 'react-native';
import Eye from 'lucide-react-native/icons/eye';

import { Stepper } from '@/ui/Button';
import { ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Row } from '@/ui/Parts';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

interface Props {
  id: string;
  name: string;
  nm: number;
  level: number;
  /** percent of the lamps' PAR at the spot; null without light */
  parPercent: number | null;
  caution: boolean;
  step: number;
  onLevel: (id: string, level: number) => void;
}

const shown = (level: number) => String(Math.round(level * 1000) / 10);

/** One channel under the comb: its level, typed or stepped, and its share of PAR. */
export const ChannelRow = memo(function ChannelRow({
  id,
  name,
  nm,
  level,
  parPercent,
  caution,
  step,
  onLevel,
}: Props) {
  return (
    <Row>
      <View style={{ flex: 1, minWidth: 0 }}>
        <Name name={name} caution={caution} />
        <Type kind="small">{parPercent === null ? `${nm} nm` : `${nm} nm · ${parPercent} % of PAR`}</Type>
      </View>
      <Setting id={id} name={name} level={level} step={step} onLevel={onLevel} />
    </Row>
  );
});

const Name = memo(function Name({ name, caution }: { name: string; caution: boolean }) {
  const paper = usePaper();
  return (
    <View style={{ flexDirection: 'row', gap: 6, alignItems: 'center' }}>
      <Type kind="label" style={{ fontSize: 15 }} numberOfLines={1}>
        {name}
      </Type>
      {caution && <Eye size={15} color={paper.ink} strokeWidth={1.75} aria-label="eye caution" />}
    </View>
  );
});

/** The part with fields and keys, redrawn only when this channel's own level changes. */
const Setting = memo(function Setting({
  id,
  name,
  level,
  step,
  onLevel,
}: Pick<Props, 'id' | 'name' | 'level' | 'step' | 'onLevel'>) {
  const by = step > 0 ? step : 0.01;
  return (
    <>
      <View style={{ width: 84 }}>
        <ValueField
          label={`${name}, % of full`}
          hideLabel
          value={shown(level)}
          unit="%"
          numeric
          testID={`level-${id}`}
          onCommit={(text) => {
            const value = parseNumber(text);
            if (value === null || value < 0 || value > 100) return '0 to 100';
            onLevel(id, value / 100);
            return null;
          }}
        />
      </View>
      <View style={{ marginLeft: space.xs }}>
        <Stepper
          name={name}
          atLow={level <= 0}
          atHigh={level >= 1}
          onStep={(sign) => onLevel(id, Math.min(1, Math.max(0, Math.round((level + sign * by) / by) * by)))}
        />
      </View>
    </>
  );
});
