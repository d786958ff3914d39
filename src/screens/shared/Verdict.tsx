import { capital } from '@/core/shape/counts';
import { router } from 'expo-router';
import { View } from 'react-native';

import { type Gravity, type Judgement, stepGravity } from '@/core/case/judgement';
import { largeWords, offWords, peakStays, verdict } from '@/core/case/verdict';
import type { Zone } from '@/core/record/zone';
import { Button } from '@/ui/Button';
import { space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { tenantsOf } from './words';

/** How grave something is, by shape. */
export const MARKS: Record<Gravity, string> = { calm: '', caution: '▲ ', stop: '■ ' };

const useStyles = themed((p) => ({
  calm: { minHeight: 48, justifyContent: 'center' },
  grave: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: space.m },
  words: { flexGrow: 1, flexShrink: 1, flexBasis: 300, gap: space.xs },
  caution: { borderLeftWidth: 3, borderColor: p.ink, paddingLeft: space.m },
  stop: { borderLeftWidth: 9, borderColor: p.ink, paddingLeft: space.m },
}));

/** The verdict of a day, as grave as it is, with what to do about it beside it: ease it in, or cut what runs. */
export function Verdict({ judged, zone }: { judged: Judgement; zone: Zone }) {
  const styles = useStyles();
  const gravity = stepGravity(judged);
  const large = largeWords(judged);
  const off = offWords(judged);
  if (!large)
    return (
      <View style={styles.calm}>
        <Type kind="small" testID="verdict">
          {verdict(judged, tenantsOf(zone.spots))}
        </Type>
      </View>
    );
  return (
    <View style={[styles.grave, styles[gravity]]}>
      <View style={styles.words}>
        <Type kind="strong" testID="verdict">
          {`${MARKS[gravity]}${large}.`}
        </Type>
        {off !== '' && <Type kind="small">{`${capital(off)}.`}</Type>}
      </View>
      {judged.state === 'runs' && (
        <Button
          label="What to do tonight"
          kind="filled"
          onPress={() => router.navigate('/rescue')}
          testID="verdict-rescue"
        />
      )}
      {judged.state === 'draft' && !peakStays(judged) && (
        <Button
          label="Ease this in"
          kind="filled"
          onPress={() => router.navigate('/ease?of=draft')}
          testID="verdict-ease"
        />
      )}
    </View>
  );
}
