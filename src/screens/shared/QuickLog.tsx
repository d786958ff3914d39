import { useState } from 'react';
import { View } from 'react-native';

import { logKinds } from '@/core/record/log';
import type { LogKind } from '@/core/record/log/logKind';
import type { Desk } from '@/state/desk';
import { Button } from '@/ui/Button';
import { space } from '@/ui/theme';

import type { Propose } from '../log/SignSheet';
import { EntrySheet, SignSheet } from '../sheets';
import { tenantsOf } from './words';

/** What is noted most, one key each: what a coral shows first, then every kind of entry that is offered for this water. */
export function QuickLog({
  desk,
  onPlan,
  onMissed,
  testID,
}: {
  desk: Desk;
  /** a sign asks for a plan to be held, slowed or begun */
  onPlan: (propose: Propose) => void;
  onMissed?: () => void;
  testID: string;
}) {
  const { zone } = desk;
  const [open, setOpen] = useState<LogKind | 'sign' | null>(null);
  const close = () => setOpen(null);
  return (
    <>
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        <Button
          label={`${tenantsOf(zone.spots).a.replace(/^./, (c) => c.toUpperCase())} looks …`}
          onPress={() => setOpen('sign')}
          testID={`${testID}-sign`}
        />
        {logKinds().map(
          (k) =>
            k.form &&
            k.form.offered?.(zone) !== false && (
              <Button
                key={k.kind}
                label={k.form.key}
                onPress={() => setOpen(k)}
                testID={`${testID}-${k.kind}`}
              />
            ),
        )}
      </View>
      {open === 'sign' && (
        <SignSheet
          onClose={close}
          onPlan={(propose) => {
            close();
            onPlan(propose);
          }}
        />
      )}
      {open !== null && open !== 'sign' && (
        <EntrySheet key={open.kind} kind={open} onClose={close} onMissed={onMissed} />
      )}
    </>
  );
}
