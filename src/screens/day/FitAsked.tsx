import type { Wiring } from '@/core/controller/circuits';
import { COUNT_WORDS, type Counts, COUNTS } from '@/core/controller/counts';
import { type ByHand, ownWeights } from '@/core/controller/fitTerms';
import { FIT_TERMS } from '@/core/controller/fitWords';
import { capital } from '@/core/shape/counts';
import type { LampKind } from '@/core/spectrum/lampKind';
import { Fold } from '@/ui/Parts';
import { Sentence, type SetPart } from '@/ui/Sentence';
import { Type } from '@/ui/Type';

const listed = (parts: readonly SetPart[], lead: (i: number) => string) =>
  parts.flatMap((p, i) => [lead(i), p]);

/** Which circuit of the clock each colour hangs on. */
export function Wired({
  kind,
  circuits,
  wiring,
  onWire,
}: {
  kind: LampKind;
  circuits: number;
  wiring: Wiring;
  onWire: (wiring: Wiring) => void;
}) {
  const numbers = Array.from({ length: circuits }, (_, i) => i + 1);
  const parts = kind.controls.map((c): SetPart => {
    const on = wiring[c.id] ?? 1;
    return {
      id: `circuit-of-${c.id}`,
      name: `Circuit of ${c.name}`,
      value: String(on),
      options: numbers.map((n) => ({ value: String(n), label: `circuit ${n}` })),
      chosen: String(on),
      onChoose: (v) => onWire({ ...wiring, [c.id]: Number(v) }),
    };
  });
  const apart = new Set(kind.controls.map((c) => wiring[c.id] ?? 1)).size > 1;
  return (
    <>
      <Sentence
        testID="wiring"
        parts={[
          ...listed(
            parts,
            (i) => `${i === 0 ? 'Circuits of the clock: ' : ', '}${kind.controls[i]!.name} on `,
          ),
          '.',
        ]}
      />
      <Type kind="small">
        {apart
          ? 'Each circuit lights its colours as far as the day ever does; leave their dials there.'
          : 'On one circuit the lamp is switched as a whole, at one setting.'}
      </Type>
    </>
  );
}

/** What counts for how much in an answer of one’s own. */
export function Weighed({ byHand, onWeigh }: { byHand: ByHand; onWeigh: (byHand: ByHand) => void }) {
  const terms = Object.keys(FIT_TERMS) as (keyof typeof FIT_TERMS)[];
  const parts = terms.map((t): SetPart => {
    const now = byHand[t] ?? 'usual';
    return {
      id: `weigh-${t}`,
      name: `What counts: ${FIT_TERMS[t]}`,
      value: COUNT_WORDS[now],
      options: (Object.keys(COUNTS) as Counts[]).map((c) => ({ value: c, label: COUNT_WORDS[c] })),
      chosen: now,
      onChoose: (v) => onWeigh({ ...byHand, [t]: v as Counts }),
    };
  });
  const nothing = terms.every((t) => byHand[t] === 'nothing');
  return (
    <Fold title="Weigh it yourself" testID="weigh">
      <Sentence
        testID="weighing"
        parts={[
          ...listed(parts, (i) =>
            i === 0 ? `${capital(FIT_TERMS[terms[0]!])} count ` : `, ${FIT_TERMS[terms[i]!]} `,
          ),
          '.',
        ]}
      />
      <Type kind="small">
        {nothing
          ? 'Where nothing counts, any day would do: let something count.'
          : ownWeights(byHand)
            ? 'Fit this day gives an answer as you weigh it, before the others.'
            : 'All as usual: the answers are each the best for one thing.'}
      </Type>
    </Fold>
  );
}
