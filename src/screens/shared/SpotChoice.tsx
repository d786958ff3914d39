import { useDesk } from '@/state/desk';
import { changeSettings } from '@/state/settings';
import { Choice } from '@/ui/Field';

/** The coral whose µmol is spoken of. */
export function SpotChoice({ label = 'At' }: { label?: string }) {
  const { zone, spot } = useDesk();
  if (!spot || zone.spots.length < 2) return null;
  return (
    <Choice
      label={label}
      value={spot.id}
      options={zone.spots.map((s) => ({ value: s.id, label: s.name }))}
      onChange={(spotId) => changeSettings({ spotId })}
    />
  );
}
