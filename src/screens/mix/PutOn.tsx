import { formatTime } from '@/core/day/clock';
import type { CaseDoc, Plate } from '@/core/record/caseDoc';
import type { Group } from '@/core/record/zone';
import { moveThread } from '@/state/commands/days';
import { run } from '@/state/session';
import { Sentence } from '@/ui/Sentence';
import { Type } from '@/ui/Type';

/** At which times of the day a plate is lit, and how it is put on another: one tap to see them, one to take it. */
export function PutOn({ doc, group, plate }: { doc: CaseDoc; group: Group; plate: Plate }) {
  const lit = group.threads.filter((t) => t.strengthShare > 0).sort((a, b) => a.minute - b.minute);
  if (lit.length === 0) return <Type kind="small">The day has no lit time yet to put it on.</Type>;
  const uses = (t: Group['threads'][number]) => 'plateId' in t.mix && t.mix.plateId === plate.id;
  const nameOf = (t: Group['threads'][number]) =>
    'plateId' in t.mix
      ? (doc.plates.find((p) => p.id === (t.mix as { plateId: string }).plateId)?.name ?? 'dark')
      : 'own mix';
  const mine = lit.filter(uses);
  return (
    <Sentence
      testID="put-on"
      parts={[
        `${plate.name} runs at `,
        {
          id: 'thread',
          name: `Put ${plate.name} on the day at`,
          value: mine.length > 0 ? mine.map((t) => formatTime(t.minute)).join(', ') : 'no time of the day',
          chosen: mine[0]?.id,
          options: lit.map((t) => ({
            value: t.id,
            label: uses(t) ? formatTime(t.minute) : `${formatTime(t.minute)}, in place of ${nameOf(t)}`,
          })),
          onChoose: (id) => {
            const thread = lit.find((t) => t.id === id)!;
            if (!uses(thread)) run(moveThread(group.id, { ...thread, mix: { plateId: plate.id } }));
          },
        },
        '.',
      ]}
    />
  );
}
