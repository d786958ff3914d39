import { router } from 'expo-router';
import { View } from 'react-native';

import { foretoldEntry } from '@/core/case/foretold';
import { stillness } from '@/core/case/stillness';
import { measuredOn } from '@/core/record/experiment';
import type { Foretold } from '@/core/record/log/foretold';
import type { Group } from '@/core/record/zone';
import { NAME_LENGTH } from '@/core/shape/shape';
import { hasCap } from '@/core/spectrum/controls';
import { setUsedTo } from '@/state/commands/days';
import { withTold } from '@/state/commands/log';
import { freeze, typeIn } from '@/state/commands/running';
import { useTyped } from '@/state/typed';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { localDate, shortDate, useNowMs, utcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { printHide } from '@/ui/print';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { soonWords } from '../shared/stillWords';
import { useWhen, WhenFields } from '../shared/When';
import { percent } from '@/core/shape/percent';

interface Props {
  group: Group;
  /** the change is too large to make at once */
  tooLarge: boolean;
  /** nothing of this group has run before */
  first: boolean;
  /** what is to be expected of it, coral by coral */
  corals: Foretold['corals'];
}

/** From draft to running: one tap, now or at a time given; a change that is too large is eased in first. */
export function TypedIn({ group, tooLarge: ease, first, corals }: Props) {
  const { doc, zone, lampKind, bundle } = useDesk();
  const nowMs = useNowMs();
  const spoils = measuredOn(zone.experiments ?? [], localDate(nowMs, zone.timeZone));
  const soon = soonWords(stillness(zone, bundle.history, bundle.log, utcIso(nowMs)));
  const typed = useTyped(`typed in ${group.id}`);
  const when = useWhen(zone.timeZone, typed);
  const commit = () => {
    const atUtc = when.instant();
    if (atUtc === null) return;
    const entry = freeze(doc, zone, group, { id: newId(), atUtc, usedTo: first && group.usedTo === true });
    const lastDate = localDate(Date.parse(atUtc), zone.timeZone);
    // what is new to nobody, or new altogether, is no change of which something could be expected
    const told = first
      ? null
      : foretoldEntry(
          {
            id: newId(),
            zoneId: zone.id,
            atUtc,
            of: `${group.name} typed in`.slice(0, NAME_LENGTH),
            lastDate,
          },
          corals,
        );
    if (!run(withTold(typeIn(entry), told))) return;
    typed.clear();
    router.navigate('/');
  };

  return (
    <View style={{ gap: space.m }} {...printHide}>
      {first && (
        <Choice
          label="Is this light new to those who live there?"
          value={group.usedTo ? 'used' : 'new'}
          onChange={(used) => run(setUsedTo(group.id, used === 'used'))}
          options={[
            { value: 'new', label: 'New to them' },
            { value: 'used', label: 'They are used to it' },
          ]}
        />
      )}
      {ease && (
        <Button
          label="Plan how it is eased in"
          kind="filled"
          wide
          onPress={() => router.navigate('/ease?of=draft')}
          testID="to-ease"
        />
      )}
      {spoils.map(({ e, to }) => (
        <Type key={e.id} kind="small" testID="spoils">
          {`▲ “${e.name}” is being measured until ${shortDate(to)}: another change of light would spoil it.`}
        </Type>
      ))}
      {!first && soon !== '' && (
        <Type kind="small" testID="too-soon">
          {soon}
        </Type>
      )}
      <WhenFields label="Once the lamp runs it: since when?" value={when} testID="typed" />
      <Button
        label={`Typed in${ease ? ' at once' : ''}${hasCap(lampKind!) ? `, cap ${percent(group.capShare)}` : ''}`}
        kind={ease ? 'outlined' : 'filled'}
        wide
        onPress={commit}
        testID="typed-all"
      />
      <Type kind="small">
        {ease
          ? 'A plan types in a first step that nobody minds; Today says when each of the others is due.'
          : 'From then on Today, light so far and what the corals are used to follow it. Undo takes it back.'}
      </Type>
    </View>
  );
}
