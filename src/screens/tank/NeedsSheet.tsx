import { useTyped } from '@/state/typed';
import { useState } from 'react';

import { NEEDS, type NeedId, wantsOfKind } from '@/core/record/needs';
import type { Zone } from '@/core/record/zone';
import { setNeeds } from '@/state/commands/waters';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { FieldRow, TextField } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { BOTH, wantsOfTexts } from '../case/typed';

const KINDS = Object.keys(NEEDS) as NeedId[];

/** The library of needs: what each kind wants in this water. */
export function NeedsSheet({ zone, onClose }: { zone: Zone; onClose: () => void }) {
  const typed = useTyped(`needs ${zone.id}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [texts, setTexts] = typed.of(
    'texts',
    Object.fromEntries(
      KINDS.map((k) => {
        const { fromUmol, toUmol } = wantsOfKind(k, zone);
        return [k, { from: String(fromUmol), to: String(toUmol) }];
      }),
    ) as Record<NeedId, { from: string; to: string }>,
  );
  const [wrong, setWrong] = useState<NeedId[]>([]);
  const keep = () => {
    const read = KINDS.map((k) => ({ k, wants: wantsOfTexts(texts[k].from, texts[k].to) }));
    const bad = read.filter((r) => !r.wants).map((r) => r.k);
    setWrong(bad);
    if (bad.length > 0) return;
    // what is as the rule of thumb has it stays the rule of thumb
    const own = read.filter(
      ({ k, wants }) => wants!.fromUmol !== NEEDS[k].fromUmol || wants!.toUmol !== NEEDS[k].toUmol,
    );
    if (run(setNeeds(zone.id, Object.fromEntries(own.map(({ k, wants }) => [k, wants!]))))) kept();
  };
  const change = (k: NeedId, part: { from?: string; to?: string }) =>
    setTexts((t) => ({ ...t, [k]: { ...t[k], ...part } }));
  return (
    <Sheet title="What kinds want" onClose={onClose} typed={typed}>
      <Type kind="small">
        µmol where they sit, at the day’s brightest: rules of thumb to begin with, yours from then on. A coral
        that is known better has its own range.
      </Type>
      {KINDS.map((k) => (
        <FieldRow key={k}>
          <TextField
            label={`${NEEDS[k].name}, from`}
            value={texts[k].from}
            onChange={(from) => change(k, { from })}
            unit="µmol"
            numeric
            error={wrong.includes(k) ? BOTH : undefined}
            testID={`need-${k}-from`}
          />
          <TextField
            label="to"
            value={texts[k].to}
            onChange={(to) => change(k, { to })}
            unit="µmol"
            numeric
            testID={`need-${k}-to`}
          />
        </FieldRow>
      ))}
      <Button label="Keep" kind="filled" wide onPress={keep} testID="keep-needs" />
      {Object.keys(zone.needs).length > 0 && (
        <Button
          label="Rules of thumb again"
          onPress={() => {
            if (run(setNeeds(zone.id, {}))) kept();
          }}
        />
      )}
    </Sheet>
  );
}
