import { View } from 'react-native';

import { useDesk } from '@/state/desk';
import type { Asked } from '@/state/finding';
import { useCalibration } from '@/state/light';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { termsOf } from '../shared/terms';
import { parBasis } from '../shared/words';

/** Whether anything can be said of a figure. */
export const isTold = async ({ figure, around }: Asked): Promise<boolean> =>
  termsOf(figure, around).length > 0;

/** What a figure is, of what, how it is made and how sure it is. */
export function WhatIs({ asked, onClose }: { asked: Asked; onClose: () => void }) {
  const { bundle, zone } = useDesk();
  const calibration = useCalibration(bundle, zone);
  const terms = termsOf(asked.figure, asked.around);
  return (
    <Sheet title={asked.figure} onClose={onClose}>
      {asked.around[0] !== asked.figure && <Type kind="small">{asked.around[0]}</Type>}
      {terms.map((t) => (
        <View key={t.name} style={{ gap: space.s }} testID="what-is">
          <Type kind="heading">{t.name}</Type>
          <Type>{t.means}</Type>
          <Type kind="label">How it is made</Type>
          <Type>{t.how}</Type>
          {t.sure && (
            <>
              <Type kind="label">How sure it is</Type>
              <Type>{t.sure}</Type>
            </>
          )}
        </View>
      ))}
      {terms.some((t) => t.light) && <Note>{`The light of ${zone.name}: ${parBasis(calibration)}.`}</Note>}
    </Sheet>
  );
}
