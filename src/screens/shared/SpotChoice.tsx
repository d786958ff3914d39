import { memo } from 'react';

import type { Spot } from '@/core/record/zone';
import { changeSettings } from '@/state/settings';
import { Choice } from '@/ui/Field';

/** The coral whose µmol is spoken of. */
export const SpotChoice = memo(function SpotChoice({
  label,
  spots,
  spotId,
}: {
  label: string;
  spots: readonly Spot[];
  spotId: string | undefined;
}) {
  if (spotId === undefined || spots.length < 2) return null;
  return (
    <Choice
      label={label}
      value={spotId}
      options={spots.map((s) => ({ value: s.id, label: s.name }))}
      onChange={(id) => changeSettings({ spotId: id })}
    />
  );
});
