import { type Desk, useDesk } from '@/state/desk';
import { Page } from '@/ui/Page';

import { GroupChoice } from '../shared/GroupChoice';
import { NoLamps } from '../shared/NoLamps';
import { OfSpot } from '../shared/OfSpot';
import { useDraftLight } from '../shared/useDraftLight';
import { Clock } from './around/Clock';
import { Drift } from './around/Drift';
import { Interludes } from './around/Interludes';
import { Night } from './around/Night';
import { Weather } from './around/Weather';

/** What acts on a group's days besides its threads: night, interludes, weather, clock. */
export function Around() {
  const desk = useDesk();
  return desk.group ? <Filled desk={desk} /> : <NoLamps title="Night, interludes, weather, clock" />;
}

function Filled({ desk }: { desk: Desk }) {
  const { zone, spot } = desk;
  const { groups, light, judge } = useDraftLight(desk);
  const part = { desk, groups, light, judge };
  const id = desk.group!.id;
  return (
    <Page
      testID="around"
      title="Night, interludes, weather, clock"
      under={`${desk.group!.name} · drafts like everything on Day: typed in with the sheet`}
      side={
        <>
          <Weather key={`w${id}`} {...part} />
          <Clock {...part} />
          <OfSpot says="µmol are at" spots={zone.spots} spot={spot} />
        </>
      }
    >
      <GroupChoice />
      <Interludes key={`i${id}`} {...part} />
      <Night key={`n${id}`} {...part} />
      <Drift key={`d${id}`} {...part} />
    </Page>
  );
}
