import { lengthRange, lengthWords } from '@/core/shape/units';
import { FieldRow, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import type { SetPart } from '@/ui/Sentence';

/** A height over the water as a part of a sentence that can be set, 1 to 300 cm. */
export const heightPart = (
  id: string,
  name: string,
  value: number,
  testID: string,
  set: (cm: number) => void,
): SetPart => ({
  ...{ id, name, value: lengthWords(value) },
  panel: (
    <FieldRow>
      <ValueField
        label={name}
        value={String(value)}
        unit="cm"
        numeric
        testID={testID}
        onCommit={(text) => {
          const v = parseNumber(text);
          if (v === null || v < 1 || v > 300) return `Give ${lengthRange(1, 300)}.`;
          set(v);
          return null;
        }}
      />
    </FieldRow>
  ),
});
