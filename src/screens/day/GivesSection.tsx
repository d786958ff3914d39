import { useMemo } from 'react';
import { View } from 'react-native';

import {
  DAYS_PER_YEAR,
  ekOf,
  excessWords,
  feedsWords,
  hoursAbove,
  kWhPerDay,
  responseOf,
  saturatedWords,
} from '@/core/case/dayFigures';
import { dayAt, type ZoneLight, zoneLitHours } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { formatHours, formatTime } from '@/core/day/clock';
import { setKwhPrice } from '@/state/commands/waters';
import { useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { Fold, Row } from '@/ui/Parts';
import { Type } from '@/ui/Type';

import { NumberField } from '../shared/fields';
import { kWh, mol, tenantName, umol } from '../shared/words';
import { useUsed } from './useUsed';

/** What the day gives each coral, and what each group takes from the wall. */
export function GivesSection({
  light,
  groups,
  open,
}: {
  light: ZoneLight;
  groups: LitGroup[];
  open: boolean;
}) {
  const price = useDesk().doc.kwhPrice ?? null;
  return (
    <Fold
      title={`What it gives and takes: ${kWh(kWhPerDay(groups))} kWh a day${costWords(kWhPerDay(groups), price)}`}
      open={open}
      testID="gives-fold"
    >
      <Gives light={light} groups={groups} price={price} />
    </Fold>
  );
}

const costWords = (kwh: number, price: number | null): string =>
  price === null ? '' : `, ${Math.round(kwh * DAYS_PER_YEAR * price)} a year`;

/** Of every coral, reckoned only while it is looked at. */
function Gives({ light, groups, price }: { light: ZoneLight; groups: LitGroup[]; price: number | null }) {
  const desk = useDesk();
  const { zone } = desk;
  const used = useUsed(desk);
  const key = zone.spots.map((_, i) => used(i).peak).join();
  const responses = useMemo(
    () =>
      zone.spots.map((s, i) => {
        const { rangeMiddleUmol, peak } = used(i);
        return responseOf(light, groups, i, s.need, rangeMiddleUmol, peak);
      }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what they are used to is told by its peaks
    [zone, light, groups, key],
  );
  const all = kWhPerDay(groups);
  const cost = (kwh: number) => costWords(kwh, price);
  return (
    <>
      <View testID="gives">
        {zone.spots.map((s, i) => {
          const day = dayAt(light, groups, i);
          const ek = ekOf(s);
          return (
            <Row key={s.id} style={{ minHeight: 44 }}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{s.name}</Type>
                <Type kind="small">
                  {[
                    day.peak > 0 ? `peak ${umol(day.peak)} µmol at ${formatTime(day.peakMinute)}` : 'dark',
                    ek === null
                      ? null
                      : !s.algaId && responses[i]
                        ? `${saturatedWords(responses[i])} above saturation, ${feedsWords(responses[i])} of its light feeds${responses[i].low.excessMol < 0.05 ? '' : `, ${excessWords(responses[i])} beyond its use`}`
                        : `${formatHours(hoursAbove(light, groups, i, ek))} above ${ek} µmol, where ${tenantName(s)} is about saturated`,
                  ]
                    .filter(Boolean)
                    .join('; ')}
                </Type>
              </View>
              <Type kind="strong">{`${mol(day.dli)} mol`}</Type>
            </Row>
          );
        })}
        {groups.length > 1 &&
          groups.map((g) => (
            <Row key={g.groupId} style={{ minHeight: 36 }}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{g.name}</Type>
                <Type kind="small">{`lit ${formatHours(zoneLitHours([g]))}`}</Type>
              </View>
              <Type kind="label">{`${kWh(kWhPerDay([g]))} kWh a day${cost(kWhPerDay([g]))}`}</Type>
            </Row>
          ))}
        <Row style={{ minHeight: 36 }}>
          <View style={{ flex: 1 }}>
            <Type kind="label">{groups.length > 1 ? 'All lamps' : 'The lamps'}</Type>
            <Type kind="small">{`lit ${formatHours(zoneLitHours(groups))}`}</Type>
          </View>
          <Type kind="strong" testID="energy">{`${kWh(all)} kWh a day${cost(all)}`}</Type>
        </Row>
      </View>
      <NumberField
        label="Price of a kilowatt-hour"
        value={price}
        unit="in your money"
        low={0}
        high={1e6}
        wrong="Give a price from 0 on, or nothing."
        hint="Watts from emitters and a driver of 88 % (rule of thumb). Saturation follows what each is used to, within what is published for its kind; for comparing days of one coral, never as growth."
        testID="kwh-price"
        empty={() => run(setKwhPrice(null))}
        take={(v) => run(setKwhPrice(v))}
      />
    </>
  );
}
