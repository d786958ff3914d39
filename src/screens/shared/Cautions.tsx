import { memo } from 'react';

import { Note } from '@/ui/Parts';

/** Beside violet and near-UV light. */
export const EyeCaution = memo(function EyeCaution() {
  return (
    <Note kind="eyes">
      Violet and near UV look dimmer than they are. Never look into a lit lamp, and shade your eyes before you
      work under it.
    </Note>
  );
});

/** Beside fluorescent tubes and halide lamps. */
export const TubeCaution = () => (
  <Note kind="heat">
    Tubes and halide lamps run hot, hold mercury and send out UV: let them cool, keep the UV shield and splash
    guard in place, air the room and sweep (never vacuum) if one breaks, and take old ones to a collection
    point.
  </Note>
);

/** On everything that is typed into a lamp: whether it can be capped at all, and over whom it hangs. */
export const SheetCautions = ({
  switched = false,
  over = 'corals',
  hung = false,
}: {
  /** it is on or off: hours and height are all there is */
  switched?: boolean;
  over?: string;
  /** what is to be minded of all that hangs over water stands beside it */
  hung?: boolean;
}) => (
  <>
    <Note>
      {switched
        ? `Set its hours before it hangs over ${over}: it is at full strength from the first minute.`
        : `Set the cap before this lamp hangs over ${over}: many lamps start at a bright default.`}
    </Note>
    {!hung && (
      <Note kind="mains">
        Mains beside salt water: drip loops, residual-current protection, plug out before hands go in. Wiring
        and ceiling anchors follow local codes and go to licensed people.
      </Note>
    )}
    <Note>
      The lamp maker’s manual wins over any number here. This is a planning aid, not veterinary advice.
    </Note>
  </>
);

export const WeightCaution = () => (
  <Note>
    Weight overhead: rated anchors and a second tether that holds the lamp when the first gives way. Ceiling
    anchors follow local codes and go to licensed people.
  </Note>
);

/** Beside everything that hangs over water. */
export const HangingCautions = () => (
  <>
    <WeightCaution />
    <Note kind="mains">
      Mains over salt water: drip loops, residual-current protection, splash-rated parts, plug out before
      hands go in. Wiring follows local codes and goes to licensed people.
    </Note>
    <Note kind="heat">
      Leave air around the lamp and its vents: a lower or tilted lamp gets hotter and splashed sooner. The
      maker’s least height wins over any number here.
    </Note>
  </>
);

/** Beside lamps over algae, and beside upkeep: in a cabinet what is damp and closed is minded too. */
export const AlgaeCautions = ({ damp }: { damp: boolean }) => (
  <>
    <Note kind="mains">
      {damp
        ? 'Mains beside water in a damp cabinet: sockets and timers outside or high and to the side, a drip loop in every cable, splash-rated parts, residual-current protection, plug out before hands go in. '
        : 'Mains beside salt water: a drip loop in every cable, splash-rated parts, residual-current protection, plug out before hands go in. '}
      Wiring follows local codes and goes to licensed people.
    </Note>
    <Note kind="heat">
      {damp
        ? 'A lamp in a closed cabinet needs air in and air out. Feel its housing after an hour; nothing that burns lies on it. '
        : 'Leave air around the lamp and its vents. '}
      The maker’s least distance wins over any height here.
    </Note>
    <Note kind="eyes">
      Deep red and blue look dimmer than they are: never look into a lit lamp, and switch it off before you
      bend over it.
    </Note>
  </>
);
