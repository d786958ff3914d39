import { router } from 'expo-router';

import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Type } from '@/ui/Type';

/** An address that is no place here. */
export function NotFound() {
  return (
    <Page title="Nothing at this address">
      <Type>The link may be old or mistyped. Your tanks are where they were.</Type>
      <Button label="Go to Today" onPress={() => router.replace('/')} />
    </Page>
  );
}
