import { QueryClient, queryOptions } from '@tanstack/react-query';
import { loadAsync } from 'expo-font';

import { boot } from '@/state/boot';
import { openDesk } from '@/state/desk';
import { keyText } from '@/state/keyText';
import { askAhead } from '@/state/light';
import { warmUp } from '@/state/lights';
import { useSession } from '@/state/session';
import { watchForStaleParts } from '@/ui/stale';

import { FONTS } from './fonts';
import { followUnits } from './units';

/** What has been asked for and answered, one for the page. */
export const client = new QueryClient({ defaultOptions: { queries: { queryKeyHashFn: keyText } } });

/** Opens the case; its light is asked for in the moment it is there, before anything of it is drawn. */
export const BOOT = queryOptions({
  queryKey: ['boot'],
  queryFn: async () => {
    const stop = useSession.subscribe(() => {
      const desk = openDesk();
      if (desk) askAhead(client, desk, Date.now());
      if (desk) stop();
    });
    return boot().finally(stop);
  },
  staleTime: Infinity,
  gcTime: Infinity,
  retry: false,
  networkMode: 'always',
});

// what could not be stored is in this page alone
watchForStaleParts(() => !['failed', 'stale'].includes(useSession.getState().save.kind));
followUnits();
// what others do takes longest: the worker starts, the store answers and letters come while the page is first drawn
warmUp();
void client.prefetchQuery(BOOT);
void loadAsync(FONTS).catch(() => undefined);
