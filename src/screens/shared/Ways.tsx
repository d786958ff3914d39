import { lengthWords } from '@/core/shape/units';
import { useQuery } from '@tanstack/react-query';
import { router } from 'expo-router';
import { View } from 'react-native';

import { calibrationKey } from '@/core/case/calibration';
import { zoneLight } from '@/core/case/light';
import { type LitGroup, rigKey, rigOf } from '@/core/case/lit';
import { type WayDown, waysDown, type WaysAsk } from '@/core/case/waysDown';
import type { Group } from '@/core/record/zone';
import { dims } from '@/core/spectrum/controls';
import { setThreads } from '@/state/commands/days';
import { type Command, together } from '@/state/commands/edit';
import { setLamp } from '@/state/commands/lamps';
import { moveSpot } from '@/state/commands/spots';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { useCeiling } from '@/state/judgement';
import { useAccustomed, useCalibration } from '@/state/light';
import { lights } from '@/state/lights';
import { run } from '@/state/session';
import { nowUtcIso, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { percent } from '@/core/shape/percent';

import { HangingCautions } from './Cautions';
import { times, umol } from './words';

/** A lamp as drafted, changed. */
const relit = (
  zone: { groups: Group[] },
  fixed: ReadonlySet<string>,
  change: (l: Group['lamps'][number]) => Group['lamps'][number],
): Command[] =>
  zone.groups.filter((g) => fixed.has(g.id)).flatMap((g) => g.lamps.map((l) => setLamp(g.id, change(l))));

/** What is left where lamps that cannot be dimmed are too bright at their brightest: each way with its figures, a tap each. */
export function Ways({ groups }: { groups: LitGroup[] }) {
  const { zone, bundle, doc } = useDesk();
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const used = useAccustomed(zone, bundle, cal, nowMs)?.perSpot ?? null;
  const ceiling = useCeiling();
  const query = useQuery({
    queryKey: [
      'ways down',
      rigKey(groups, zone, zone.spots, cal),
      calibrationKey(cal),
      groups.map((g) => [g.threads, g.extras]),
      zone.needs,
      zone.spots.map((s) => [s.need, s.wants]),
      used,
      ceiling,
    ],
    queryFn: () => {
      const lightOf: WaysAsk['lightOf'] = async (of, places) =>
        zoneLight(await lights.response(rigOf(of, zone, places, cal)), of, cal);
      return waysDown({ zone, groups, used: used!, ceiling, lightOf });
    },
    enabled: used !== null && zone.spots.length > 0,
    staleTime: Infinity,
    networkMode: 'always',
    retry: 0,
  });
  const ways = query.data;
  if (!ways)
    return query.isFetching ? (
      <Type kind="small" role="status">
        Looking for what makes it dark enough.
      </Type>
    ) : null;
  const fixed = new Set(groups.filter((g) => !dims(g.lampKind)).map((g) => g.groupId));
  const of = (w: Exclude<WayDown, { kind: 'lower' }>) =>
    `then at most ${umol(w.worst.umol)} µmol, ${times(w.worst.ratio)} at ${zone.spots[w.worst.spot]!.name}`;
  const words = (w: WayDown): { say: string; then: string; key: string; command: () => Command } => {
    switch (w.kind) {
      case 'circuits':
        return {
          say: `Only ${w.words}`,
          then: of(w),
          key: 'Light only that',
          command: () => {
            const group = zone.groups.find((g) => g.id === w.groupId)!;
            const lit = groups.find((g) => g.groupId === w.groupId)!;
            return setThreads(
              group.id,
              `only ${w.words}`,
              group.threads.map((t) => {
                const { mix } = lit.threads.find((x) => x.minute === t.minute)!;
                const own = Object.fromEntries(
                  Object.entries(mix).map(([id, v]) => [id, w.on.includes(id) ? v : 0]),
                );
                return { ...t, mix: { own } };
              }),
            );
          },
        };
      case 'higher':
        return {
          say: `Hung ${lengthWords(w.byCm, true)} higher`,
          then: of(w),
          key: 'It hangs there',
          command: () =>
            together(
              `lamps ${lengthWords(w.byCm, true)} higher`,
              ...relit(zone, fixed, (l) => ({ ...l, heightCm: l.heightCm + w.byCm })),
            ),
        };
      case 'screen':
        return {
          say: `A screen or raised diffuser that lets through ${percent(w.passShare)} at most`,
          then: of(w),
          key: 'It hangs under it',
          command: () =>
            together(
              'a screen under the lamps',
              ...relit(zone, fixed, (l) => ({
                ...l,
                screenShare: Math.max(0.05, w.passShare * (l.screenShare ?? 1)),
              })),
            ),
        };
      case 'lower':
        return {
          say: `Lower: ${w.places.map((p) => `${zone.spots[p.spot]!.name} ${lengthWords(p.depthCm)} deep`).join(', ')}`,
          then: `then ${w.places.map((p) => `${umol(p.umol)} µmol`).join(', ')}; up again in steps`,
          key: w.places.length === 1 ? 'It sits there' : 'They sit there',
          command: () =>
            together(
              'corals lower',
              ...w.places.map((p) =>
                moveSpot(
                  zone.id,
                  { ...zone.spots[p.spot]!, depthCm: p.depthCm },
                  { id: newId(), atUtc: nowUtcIso() },
                ),
              ),
            ),
        };
    }
  };
  return (
    <Section title="It cannot be dimmed">
      <Type>
        {ways.length > 0
          ? 'Shorter hours do not make its brightest moment darker. Each of these alone makes it dark enough:'
          : `Nothing tried here makes its brightest small enough: one circuit alone, up to ${lengthWords(120)} more height, a screen that lets through 15 %, corals lower down. It needs another lamp.`}
      </Type>
      <View testID="ways-down">
        {ways.map((w) => {
          const { say, then, key, command } = words(w);
          return (
            <Row key={w.kind} style={{ minHeight: 56, flexWrap: 'wrap' }}>
              <View style={{ flexGrow: 1, flexShrink: 1, flexBasis: 220 }}>
                <Type kind="label">{say}</Type>
                <Type kind="small">{then}</Type>
              </View>
              <Button label={key} onPress={() => run(command())} testID={`way-${w.kind}`} />
            </Row>
          );
        })}
      </View>
      {ways.some((w) => w.kind === 'higher' || w.kind === 'screen') && <HangingCautions />}
      {ways.length === 0 && (
        <Button
          label={doc.lampKinds.length > 1 ? 'Compare lamps' : 'See lamps that dim'}
          onPress={() => router.navigate(doc.lampKinds.length > 1 ? '/compare' : '/lamps')}
        />
      )}
    </Section>
  );
}
