import { useTyped } from '@/state/typed';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { activePlans, type EasingPlan } from '@/core/record/history';
import { type SignAdvice, signAdvice } from '@/core/case/signs';
import { type Hue, HUES, type Region, REGIONS, type Sign, signsOf, signWords } from '@/core/record/log/sign';
import { roseDaysAgo } from '@/core/case/timeline';
import { floorUmolOf } from '@/core/record/needs';
import type { Spot, Zone } from '@/core/record/zone';
import { stepRatio } from '@/core/easing/accustomed';
import { setEvent } from '@/state/commands/log';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { type Accustomed, useAccustomed, useCalibration } from '@/state/light';
import { run } from '@/state/session';
import { useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, TextField } from '@/ui/Field';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import type { PlanAct } from '../ease/PlanSheet';
import { Triage } from '../sheets';
import { SpotChoice } from '../shared/SpotChoice';
import { useWhen, WhenFields } from '../shared/When';
import { tenantsOf } from '../shared/words';

/** Signs whose causes are asked for before the lamp is touched. */
const ASKS_WHY: readonly Sign[] = [
  'paling',
  'browning',
  'deeper',
  'hueMoved',
  'newColour',
  'polypsIn',
  'tissue',
];

/** What a sign says, from the light the coral met. */
function adviceOn(
  { changes, perSpot }: Accustomed,
  said: { sign: Sign; atUtc: string },
  tenant: Spot,
  zone: Zone,
  spot: number,
  easing: boolean,
): SignAdvice {
  const met = changes.at(-1)?.after[spot];
  const used = perSpot[spot];
  return signAdvice(said.sign, {
    roseDaysAgo: roseDaysAgo(changes, spot, Date.parse(said.atUtc)),
    ratio: met && used ? stepRatio(met, used, floorUmolOf(tenant, zone)).ratio : null,
    easing,
    algae: tenant.need === 'macroalgae',
  });
}

export type Propose = { plan: EasingPlan; act: PlanAct; days: number };

/** What was seen on a coral: one tap logs it, and what it says about the steps stands there at once. */
export function SignSheet({
  onClose,
  onPlan,
}: {
  onClose: () => void;
  /** opens a plan with what is proposed */
  onPlan: (propose: Propose) => void;
}) {
  const { zone, bundle, spot, spotIndex } = useDesk();
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const accustomed = useAccustomed(zone, bundle, cal, nowMs);
  const typed = useTyped(`sign ${zone.id}`);
  const when = useWhen(zone.timeZone, typed);
  const [note, setNote] = typed.of('note', '');
  const [region, setRegion] = typed.of<Region | ''>('region', '');
  const [by, setBy] = typed.of<'' | 'camera'>('by', '');
  const [hues, setHues] = useState(false);
  const [said, setSaid] = useState<{ sign: Sign; atUtc: string } | null>(null);
  const plan = activePlans(bundle.history, zone.id)[0] ?? null;
  if (!spot)
    return (
      <Sheet title="What is seen" onClose={onClose} typed={typed}>
        <Type>Nobody is known here yet. Add one on Tank.</Type>
      </Sheet>
    );

  const log = (sign: Sign, hue?: Hue) => {
    const atUtc = when.instant();
    if (atUtc === null) return;
    const done = run(
      setEvent(
        {
          ...{ id: newId(), zoneId: zone.id, atUtc, note: note.trim(), kind: 'sign', spotId: spot.id, sign },
          ...(region === '' ? {} : { region }),
          ...(by === '' ? {} : { by }),
          ...(hue ? { hue } : {}),
        },
        `${spot.name}: ${signWords(sign, spot)}`,
      ),
    );
    if (!done) return;
    typed.clear();
    setSaid({ sign, atUtc });
  };

  if (said) {
    const advice = accustomed ? adviceOn(accustomed, said, spot, zone, spotIndex, plan !== null) : null;
    if (!advice)
      return (
        <Sheet title={`${spot.name}: ${signWords(said.sign, spot)}`} onClose={onClose} typed={typed}>
          <Type role="status">Logged. Looking at what the light did …</Type>
        </Sheet>
      );
    const act: PlanAct | null =
      advice.propose === 'hold' ? 'hold' : advice.propose === 'back' ? 'back' : null;
    return (
      <Sheet title={`${spot.name}: ${signWords(said.sign, spot)}`} onClose={onClose} typed={typed}>
        <Type kind="sentence" testID="sign-advice">
          {advice.words}
        </Type>
        {plan && act && (
          <Button
            label={act === 'hold' ? `Hold for ${advice.days} days` : 'Take a step back'}
            kind="filled"
            wide
            testID="sign-act"
            onPress={() => onPlan({ plan, act, days: advice.days })}
          />
        )}
        {advice.propose === 'rescue' && (
          <Button
            label="What to do tonight"
            kind="filled"
            wide
            testID="sign-rescue"
            onPress={() => {
              onClose();
              router.navigate('/rescue');
            }}
          />
        )}
        <Note>
          Light is one of many causes. Nutrients, flow, temperature, pests and neighbours show the same signs.
          This is a planning aid, not veterinary advice.
        </Note>
        {ASKS_WHY.includes(said.sign) && <Triage event={{ ...said, spotId: spot.id }} />}
        <Button label="Logged" wide onPress={onClose} testID="sign-done" />
      </Sheet>
    );
  }
  return (
    <Sheet title={`What ${tenantsOf([spot]).a} shows`} onClose={onClose} typed={typed}>
      <SpotChoice label="Which" spots={zone.spots} spotId={spot.id} />
      {spot.need !== 'macroalgae' && (
        <Choice
          label="Where"
          value={region}
          onChange={setRegion}
          options={[
            { value: '' as const, label: 'all of it' },
            ...REGIONS.map((r) => ({ value: r, label: r })),
          ]}
        />
      )}
      <Choice
        label="Seen by"
        value={by}
        onChange={setBy}
        options={[
          { value: '', label: 'the eye' },
          { value: 'camera', label: 'the camera' },
        ]}
      />
      <View style={{ gap: space.s }}>
        {signsOf(spot).map(([sign, label]) => (
          <Button
            key={sign}
            label={label.charAt(0).toUpperCase() + label.slice(1)}
            name={`${spot.name}: ${label}`}
            wide
            onPress={() => (sign === 'hueMoved' ? setHues(!hues) : log(sign))}
            testID={`sign-${sign}`}
          />
        ))}
        {hues && (
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
            {HUES.map((hue) => (
              <Button
                key={hue}
                label={`to ${hue}`}
                name={`${spot.name}: turned ${hue}`}
                onPress={() => log('hueMoved', hue)}
                testID={`hue-${hue}`}
              />
            ))}
          </View>
        )}
      </View>
      <TextField
        label="In your words"
        value={note}
        onChange={setNote}
        hint="may stay empty"
        testID="sign-note"
      />
      <WhenFields label="Seen" value={when} testID="sign" />
    </Sheet>
  );
}
