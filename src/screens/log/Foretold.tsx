import { View } from 'react-native';

import { trackOf } from '@/core/case/foretold';
import { CAME, type Came, type Foretold as Entry } from '@/core/record/log/foretold';
import type { Sign } from '@/core/record/log/sign';
import { inWords } from '@/core/shape/counts';
import { together } from '@/state/commands/edit';
import { setEvent } from '@/state/commands/log';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { localDate, nowUtcIso, shortDate, useNowMs } from '@/state/time';
import { Choice } from '@/ui/Field';
import { Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

/** What an answer says of the coral, for all that reads signs. */
const SEEN: Partial<Record<Came, Sign>> = { well: 'asBefore', paled: 'paling', browned: 'browning' };
/** From so many answers on it is said how they came out against what was said. Mark: rule of thumb. */
const TELLING = 3;

/** What was expected of a change, and what came of it: a tap each, which is logged as seen, too. */
export function Foretold({ event }: { event: Entry }) {
  const { zone, bundle } = useDesk();
  const today = localDate(useNowMs(), zone.timeZone);
  const here = event.corals.flatMap((c) => {
    const spot = zone.spots.find((s) => s.id === c.spotId);
    return spot ? [{ c, spot }] : [];
  });
  const { answered, well, said } = trackOf(bundle.log);
  const answer = (spotId: string, name: string, came: Came) => {
    const corals = event.corals.map((c) => (c.spotId === spotId ? { ...c, came } : c));
    const words = `${name}: ${CAME[came]}`;
    const sign = SEEN[came];
    run(
      together(
        words,
        setEvent({ ...event, corals }, words),
        ...(sign
          ? [
              setEvent(
                {
                  id: newId(),
                  zoneId: zone.id,
                  atUtc: nowUtcIso(),
                  note: event.of,
                  kind: 'sign',
                  spotId,
                  sign,
                },
                words,
              ),
            ]
          : []),
      ),
    );
  };
  return (
    <Section title="What came of it">
      {event.askDate > today ? (
        <Type kind="small">{`You are asked from ${shortDate(event.askDate)} on: before, nothing can have shown.`}</Type>
      ) : (
        <View style={{ gap: space.m }} testID="foretold">
          {here.map(({ c, spot }) => (
            <Choice
              key={spot.id}
              label={`${spot.name}: expected to go well in ${Math.round(10 * c.chance)} of 10`}
              value={c.came ?? ('' as Came)}
              onChange={(came) => answer(spot.id, spot.name, came)}
              options={(Object.keys(CAME) as Came[]).map((value) => ({ value, label: CAME[value] }))}
            />
          ))}
        </View>
      )}
      {answered >= TELLING && (
        <Type kind="small" testID="track">
          {`Of ${inWords(answered)} answers so far ${inWords(well)} were “well”; by the chances given it should have been about ${inWords(Math.round(said * answered))}.`}
        </Type>
      )}
    </Section>
  );
}
