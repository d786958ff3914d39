import { router, useLocalSearchParams } from 'expo-router';

import { Button } from '@/ui/Button';
import { Row } from '@/ui/Parts';
import { Type } from '@/ui/Type';

/** After a computed day was taken: what happened, until it is seen or typed in. */
export function Took({ drafted }: { drafted: boolean }) {
  const { took } = useLocalSearchParams<{ took?: string }>();
  if (!took || !drafted) return null;
  return (
    <Row>
      <Type style={{ flex: 1 }} role="status" testID="day-took">
        {`${took} is drafted: not in the lamp yet. Undo brings back the day that was.`}
      </Type>
      <Button label="Seen" kind="plain" onPress={() => router.setParams({ took: undefined })} />
    </Row>
  );
}
