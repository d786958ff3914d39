import { router } from 'expo-router';

import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Type } from '@/ui/Type';

/** A zone without lamps: what will be here, and the way to it. */
export function NoLamps({ title }: { title: string }) {
  return (
    <Page title={title}>
      <Type>
        No lamp hangs over this water yet. With a lamp, its height and one spot, this page shows real light.
      </Type>
      <Button label="Add a lamp" kind="filled" onPress={() => router.navigate('/case')} />
      <Button label="Start my tank" onPress={() => router.navigate('/start')} />
    </Page>
  );
}
