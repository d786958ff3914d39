import { removeEvent } from '@/state/commands';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';

/** The foot of a sheet that keeps an entry of the log, and takes an old one out. */
export function EventFoot({
  eventId,
  onKeep,
  onClose,
  testID,
}: {
  /** an entry that is changed; absent = a new one */
  eventId: string | undefined;
  onKeep: () => void;
  onClose: () => void;
  testID: string;
}) {
  return (
    <>
      <Button label="Keep" kind="filled" wide onPress={onKeep} testID={testID} />
      {eventId !== undefined && (
        <Button
          label="Remove from the log"
          onPress={() => {
            onClose();
            run(removeEvent(eventId));
          }}
          testID="remove-event"
        />
      )}
    </>
  );
}
