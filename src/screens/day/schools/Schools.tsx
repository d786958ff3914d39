import { router, useLocalSearchParams } from 'expo-router';
import { View } from 'react-native';

import { type Dispute, disputesFor } from '@/core/case/disputes';
import { litSpan } from '@/core/day/day';
import { type Desk, useDesk } from '@/state/desk';
import { useDisputes } from '@/state/solvers';
import { Page, usePageSize } from '@/ui/Page';
import { Note, Row, Section } from '@/ui/Parts';
import { Sentence } from '@/ui/Sentence';
import { Type } from '@/ui/Type';

import { GroupChoice } from '../../shared/GroupChoice';
import { LightPending } from '../../shared/LightPending';
import { NoLamps } from '../../shared/NoLamps';
import { spotPart } from '../../shared/spotPart';
import { mol } from '../../shared/words';
import { stepWords } from '../changed';
import { useWanted } from '../useWanted';
import { Beside } from './Beside';

/** Questions that keepers disagree on: every school's day for this lamp, with the same light at the chosen coral. */
export function Schools() {
  const desk = useDesk();
  return desk.group ? <Filled key={desk.group.id} desk={desk} /> : <NoLamps title="Where keepers disagree" />;
}

function Filled({ desk }: { desk: Desk }) {
  const { zone, spot, spotIndex } = desk;
  const page = usePageSize();
  const { ask } = useLocalSearchParams<{ ask?: string }>();
  const wanted = useWanted(desk);
  const { groups, light, error, ownDli, judge, basis } = wanted;
  const asked = disputesFor(wanted.lookedAt, litSpan(wanted.others) !== null);
  const dispute = asked.find((d) => d.id === ask) ?? asked[0]!;
  const { days, error: failed, stale } = useDisputes(wanted.inputFor(ownDli, null));
  const found = days?.find((d) => d.id === dispute.id)?.schools ?? null;
  const choose = (id: string) => router.setParams({ ask: id });
  const proof = <Proof dispute={dispute} />;
  return (
    <Page
      testID="schools"
      title="Where keepers disagree"
      under={desk.group!.name}
      sentence={
        <Sentence
          testID="schools-asked"
          parts={[
            {
              ...{ id: 'dispute', name: 'The question', value: dispute.asks, chosen: dispute.id },
              options: asked.map((d) => ({ value: d.id, label: d.asks })),
              onChoose: choose,
            },
            ` Every way with as much light a day as now${ownDli > 0 ? `, ${mol(ownDli)} mol${zone.groups.length > 1 ? ` from ${desk.group!.name}` : ''},` : ''}${spot ? ' at ' : '.'}`,
            ...(spot ? [spotPart(zone.spots, spot), '.'] : []),
          ]}
        />
      }
      side={
        <>
          {page.wide && proof}
          {asked.length > 1 && (
            <Section title="Other questions">
              <View>
                {asked
                  .filter((d) => d !== dispute)
                  .map((d) => (
                    <Row key={d.id} onPress={() => choose(d.id)} name={d.asks}>
                      <Type kind="label">{d.asks}</Type>
                    </Row>
                  ))}
              </View>
            </Section>
          )}
        </>
      }
    >
      <GroupChoice />
      {!light || spotIndex < 0 ? (
        <LightPending error={error} noSpot={zone.spots.length === 0} height={320} />
      ) : ownDli <= 0 ? (
        <Note>
          The drafted day is dark: give it some light, then its schools can be set against each other.
        </Note>
      ) : failed ? (
        <Note>{`The days could not be computed: ${failed}. Nothing was changed.`}</Note>
      ) : !found ? (
        <Type role="status">Shaping the days …</Type>
      ) : (
        <Beside
          key={dispute.id}
          {...{ desk, dispute, groups, light, basis, found, stale }}
          proof={page.wide ? null : proof}
          stepOf={(g) => stepWords(judge(g), zone)}
        />
      )}
    </Page>
  );
}

/** What of a question is proven, and what is not. */
function Proof({ dispute }: { dispute: Dispute }) {
  return (
    <>
      <Section title="Proven">
        <Type testID="proven">{dispute.proven ?? 'Nothing that is known here.'}</Type>
        {dispute.id === 'violet' && (
          <Note kind="eyes">
            Violet and near UV can harm eyes before they look bright: never look into a lit lamp.
          </Note>
        )}
      </Section>
      <Section title="Not proven">
        <Type testID="unproven">{dispute.unproven}</Type>
      </Section>
    </>
  );
}
