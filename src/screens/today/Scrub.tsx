import { type ReactNode } from 'react';

import { DAY_MINUTES } from '@/core/shape/ring';
import { type Pull, Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { size } from '@/ui/theme';

/** The day's line as a rail: the tank is looked at through the day. */
export function Scrub({
  from,
  to,
  width,
  minute,
  valueText,
  onMinute,
  children,
}: {
  from: number;
  to: number;
  width: number;
  minute: number;
  valueText: string;
  /** @param pulled a finger holds it */
  onMinute: (minute: number, pulled: boolean) => void;
  children: ReactNode;
}) {
  const at = (x: number) =>
    Math.round(from + (Math.min(width, Math.max(0, x)) / width) * (to - from)) % DAY_MINUTES;
  const pull: Pull = {
    onBegin: (e) => onMinute(at(e.x), true),
    onUpdate: (e) => onMinute(at(e.x), true),
    onFinalize: (e) => onMinute(at(e.x), false),
  };
  return (
    <Pulled pull={pull} style={{ width }} testID="scrub">
      {children}
      <SliderGrip
        name="Hour of today that is looked at"
        now={Math.floor(minute)}
        min={0}
        max={DAY_MINUTES - 1}
        step={15}
        valueText={valueText}
        onChange={(m) => onMinute(m, false)}
        left={
          (((minute - from + DAY_MINUTES) % DAY_MINUTES) / Math.max(1, to - from)) * width - size.target / 2
        }
        top={8}
        testID="scrub-grip"
      />
    </Pulled>
  );
}
