import { hungGroups } from '@/core/case/calibration';
import type { LitGroup } from '@/core/case/lit';
import { rigGroups } from '@/core/case/plateaus';
import type { Desk } from '@/state/desk';
import { useModelCheck } from '@/state/tank';
import { Button } from '@/ui/Button';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { percent } from '@/core/shape/percent';

/** The model held against photons traced one by one, for this very tank. */
export function CheckSheet({
  desk,
  groups,
  onClose,
}: {
  desk: Desk;
  groups: LitGroup[];
  onClose: () => void;
}) {
  const { zone, doc } = desk;
  const rig = groups.length > 0 ? rigGroups(groups) : hungGroups(doc, zone);
  const { progress, found, error, start, cancel } = useModelCheck(zone, rig);
  const close = () => {
    cancel();
    onClose();
  };
  return (
    <Sheet title="Check this model" onClose={close}>
      <Type>
        A second model that shares nothing with the first sends photons from your lamps one by one: through
        the surface, off the panes, the rock and the floor. Where both agree, the geometry of this chart is
        right. Whether the lamps really send out what is written on them only a meter can say.
      </Type>
      {progress === null ? (
        <Button
          label={found ? 'Trace again' : 'Trace 600 000 photons'}
          kind="filled"
          wide
          onPress={start}
          testID="check-start"
        />
      ) : (
        <>
          <Type role="status" testID="check-progress">{`Traced ${percent(progress)}`}</Type>
          <Button label="Stop" wide onPress={cancel} />
        </>
      )}
      {error && <Note>{`The check did not end: ${error}. Try again.`}</Note>}
      {found && (
        <Type testID="check-found">
          {found.cells === 0
            ? 'Nothing to compare: no light reaches the water.'
            : `${found.agree} of ${found.cells} cells agree to 3 % or within the tracer’s own noise; half differ by less than ${(found.medianOff * 100).toFixed(1)} %, 95 of 100 by less than ${(found.p95Off * 100).toFixed(1)} %.`}
        </Type>
      )}
      {found && found.leftOut.length > 0 && (
        <Type kind="small">{`Left out of both: ${found.leftOut.join(', ')}, whose optic comes from a file.`}</Type>
      )}
      {found && found.agree < 0.95 * found.cells && (
        <Note>
          Fewer than 95 of 100 cells agree. The floor’s second light is taken as even over the tank, which a
          narrow beam or large rocks make untrue: trust readings more than this chart there.
        </Note>
      )}
    </Sheet>
  );
}
