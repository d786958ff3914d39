import { lengthRange } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { useQuery } from '@tanstack/react-query';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';

import { type Judgement, largestStep } from '@/core/case/judgement';
import { dayAt, zoneLight } from '@/core/case/light';
import { largeWords } from '@/core/case/verdict';
import { CARD_GUESSES, type CardGuess, yellowAfterCarbon, yellowFromCard } from '@/core/case/yellow';
import { FRESH_YELLOW } from '@/core/record/log/carbon';
import { setZone } from '@/state/commands/waters';
import type { Desk } from '@/state/desk';
import { useAccustomed } from '@/state/light';
import { judgementOf, useCeiling } from '@/state/judgement';
import { run } from '@/state/session';
import { waterQuery } from '@/state/tank';
import { daysBetween, localDate, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Note, Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { percent } from '@/core/shape/percent';
import { apart, tenantsOf, timesUsed, UMOL } from '../shared/words';
import type { TankLight } from './useTankLight';

/** How yellow the water is, from a card, from days, or from the fit; and what fresh carbon would do tonight. */
export function WaterSheet({ desk, light, onClose }: { desk: Desk; light: TankLight; onClose: () => void }) {
  const { zone, bundle } = desk;
  const { tank, water } = zone;
  const { cal, groups } = light;
  const nowMs = useNowMs();
  const today = localDate(nowMs, zone.timeZone);
  const typed = useTyped(`yellow ${desk.zone.id}`);
  const [card, setCard] = typed.of<CardGuess>('card', 'cream');
  const [way, setWay] = typed.of('way', String(Math.round(tank.lengthCm)));
  const [days, setDays] = typed.of(
    'days',
    zone.carbonDate ? String(Math.max(0, daysBetween(zone.carbonDate, today))) : '',
  );
  const [error, setError] = useState<string | null>(null);
  const fitted = cal.parameters.find((p) => p.what === 'yellow');
  const set = (yellow440PerM: number, carbonDate = zone.carbonDate) =>
    run(
      setZone(zone.id, {
        water: { ...water, yellow440PerM: Math.round(yellow440PerM * 1000) / 1000 },
        carbonDate,
      }),
    );
  const wayCm = parseNumber(way);

  const fresh = useQuery({ ...waterQuery(groups, zone, cal, FRESH_YELLOW), enabled: groups.length > 0 });
  const accustomed = useAccustomed(zone, bundle, cal, nowMs);
  const after = fresh.data ? zoneLight(fresh.data, groups, cal) : null;
  const ceiling = useCeiling();
  const judged =
    after && judgementOf('water', zone, groups, after, cal, accustomed?.perSpot ?? null, ceiling, false);
  const rows =
    light.light && after
      ? zone.spots.map((s, i) => ({
          spot: s,
          before: dayAt(light.light!, groups, i).peak,
          after: dayAt(after, groups, i).peak,
        }))
      : [];
  return (
    <Sheet title="Yellow water" onClose={onClose} typed={typed}>
      <Type testID="yellow-now">
        {`The model takes ${water.yellow440PerM.toFixed(2)} per metre at 440 nm, more towards violet${cal.readings > 0 && fitted ? `; the readings say ${fitted.value.toFixed(2)} ± ${fitted.standardError.toFixed(2)} (standard error)` : ''}.`}
      </Type>
      <Section title="By a white card">
        <Choice
          label="Seen through the water, white plastic looks"
          value={card}
          onChange={setCard}
          options={CARD_GUESSES.map((c) => ({ value: c.id, label: c.label }))}
        />
        <TextField
          label="Length of water looked through"
          value={way}
          onChange={setWay}
          unit="cm"
          numeric
          error={wayCm === null || wayCm < 15 || wayCm > 1000 ? `Give ${lengthRange(15, 1000)}.` : undefined}
        />
        <Button
          label={`Take ${yellowFromCard(card, wayCm ?? tank.lengthCm).toFixed(2)} per metre`}
          wide
          testID="take-card"
          onPress={() => {
            if (wayCm !== null && wayCm >= 15 && wayCm <= 1000) set(yellowFromCard(card, wayCm));
          }}
        />
      </Section>
      <Section title="By days since fresh carbon">
        <TextField
          label="Days since fresh carbon"
          value={days}
          onChange={(t) => {
            setDays(t);
            setError(null);
          }}
          numeric
          error={error ?? undefined}
          testID="carbon-days"
        />
        <Button
          label="Take the guess from these days"
          wide
          testID="take-days"
          onPress={() => {
            const n = parseNumber(days);
            if (n === null || n < 0 || n > 2000) return setError('Give 0 to 2000 days.');
            const date = localDate(nowMs - n * 86_400_000, zone.timeZone);
            set(yellowAfterCarbon(n), date);
          }}
        />
        <Type kind="small">
          Both guesses are rules of thumb: half or twice as much is possible. Readings of violet and green
          alone at two depths tell more.
        </Type>
      </Section>
      {cal.readings > 0 && fitted && (
        <Button
          label={`Take what the readings say, ${fitted.value.toFixed(2)}`}
          wide
          onPress={() => set(fitted.value)}
        />
      )}
      <Section title="What fresh carbon would do tonight">
        {rows.length === 0 ? (
          <Type quiet>{groups.length === 0 ? 'No lamp is known here.' : 'Computing …'}</Type>
        ) : (
          <>
            <View>
              {rows.map((r) => (
                <Row key={r.spot.id} style={{ minHeight: 44 }}>
                  <Type kind="label" style={{ flex: 1 }}>
                    {r.spot.name}
                  </Type>
                  <Type kind="small">{`${apart(UMOL, r.before, r.after).join(' → ')} µmol`}</Type>
                  <Type kind="strong" style={{ width: 70, textAlign: 'right' }}>
                    {`${r.after >= r.before ? '+' : '−'}${percent(Math.abs(r.after / Math.max(r.before, 1e-9) - 1))}`}
                  </Type>
                </Row>
              ))}
            </View>
            <Type testID="carbon-word">{carbonWords(judged, tenantsOf(zone.spots))}</Type>
          </>
        )}
      </Section>
      {groups.length > 0 && (
        <Button
          label="Fresh carbon goes in: log it"
          wide
          onPress={() => {
            onClose();
            router.navigate('/log?enter=carbon');
          }}
          testID="log-fresh"
        />
      )}
      <Note>
        Fresh carbon and a wiped lens give light back overnight: count each as a change, one at a time.
      </Note>
    </Sheet>
  );
}

function carbonWords(judged: Judgement | null, who: ReturnType<typeof tenantsOf>): string {
  const most = judged && largestStep(judged);
  if (!judged || !most) return `What it would be against what the ${who.many} are used to follows here.`;
  const large = largeWords(judged);
  return large
    ? `${large}. ${judged.dims ? 'Lower the cap first, or use' : 'Use'} a little carbon at a time.`
    : `The largest step would be ${timesUsed(most.ratio, `${who.a} is`)}. Blue and violet come back most. Do not raise the light in the same week.`;
}
