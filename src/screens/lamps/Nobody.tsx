import { router } from 'expo-router';

import { livesByLight, wantsOf } from '@/core/record/needs';
import type { Zone } from '@/core/record/zone';
import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Type } from '@/ui/Type';

/** How many live in a water by whom its light can be judged. */
export const judgedIn = (zone: Zone): number =>
  zone.spots.filter((s) => livesByLight(s) && wantsOf(s, zone)).length;

/** In place of lamps sought for corals: nobody is known by whom any light could be called right. */
export function Nobody({ testID, title, zone }: { testID: string; title: string; zone: Zone }) {
  return (
    <Page testID={testID} title={title} under={zone.name}>
      <Type testID={`${testID}-nobody`}>
        Say who lives here first: how strong the light is to be depends on that. With corals that are still to
        come, begin at the whole tank.
      </Type>
      <Button label="Add a spot" kind="filled" wide onPress={() => router.navigate('/case')} />
      <Button label="The whole tank" wide onPress={() => router.navigate('/whole' as never)} />
    </Page>
  );
}
