import { router } from 'expo-router';
import { View } from 'react-native';

import type { Gravity, Judgement } from '@/core/case/judgement';
import { verdict } from '@/core/case/verdict';
import type { Zone } from '@/core/record/zone';
import { Button } from '@/ui/Button';
import { space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { tenantsOf } from './words';

/** How grave something is, by shape. */
export const MARKS: Record<Gravity, string> = { calm: '', caution: '▲ ', stop: '■ ' };

const useStyles = themed((p) => ({
  row: { flexDirection: 'row', alignItems: 'center', gap: space.m, minHeight: 48 },
  caution: { borderLeftWidth: 3, borderColor: p.ink, paddingLeft: space.m },
  stop: { borderLeftWidth: 9, borderColor: p.ink, paddingLeft: space.m },
}));

/** The verdict of a day that is not in the lamp yet, as grave as it is, with the way to ease it in beside it. */
export function Verdict({ judged, zone }: { judged: Judgement; zone: Zone }) {
  const styles = useStyles();
  const step = judged.worst?.step;
  const gravity: Gravity = step?.harmful ? 'stop' : step?.large ? 'caution' : 'calm';
  return (
    <View style={[styles.row, gravity !== 'calm' && styles[gravity]]}>
      <Type kind={gravity === 'calm' ? 'small' : 'strong'} style={{ flex: 1 }} testID="verdict">
        {`${MARKS[gravity]}${verdict(judged, tenantsOf(zone.spots))}`}
      </Type>
      {step?.large && judged.state === 'draft' && (
        <Button
          label="Ease it in"
          kind="filled"
          onPress={() => router.navigate('/ease?of=draft')}
          testID="verdict-ease"
        />
      )}
    </View>
  );
}
