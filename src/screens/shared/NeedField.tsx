import type { Zone } from '@/core/record/zone';
import { type NeedId, NEEDS, wantsOfKind } from '@/core/record/needs';
import { Choice } from '@/ui/Field';

export type NeedChoice = NeedId | 'none';

/** What a coral at a spot wants. */
export function NeedField({
  value,
  onChange,
  needs = {},
}: {
  value: NeedChoice;
  onChange: (value: NeedChoice) => void;
  /** what kinds want here, beside the rule of thumb */
  needs?: Zone['needs'];
}) {
  return (
    <Choice
      label="Who lives there"
      value={value}
      onChange={onChange}
      options={[
        ...(Object.keys(NEEDS) as NeedId[]).map((id) => {
          const { fromUmol, toUmol } = wantsOfKind(id, { needs });
          return { value: id, label: `${NEEDS[id].name}, ${fromUmol}–${toUmol}` };
        }),
        { value: 'none' as const, label: 'none or not known' },
      ]}
    />
  );
}
