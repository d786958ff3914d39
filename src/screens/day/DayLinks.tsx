import { router } from 'expo-router';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import type { ReactNode } from 'react';
import { View } from 'react-native';

import { resolveThread } from '@/core/case/lit';
import { misfits } from '@/core/controller/misfits';
import type { Desk } from '@/state/desk';
import { changeSettings, useSettings } from '@/state/settings';
import { Choice } from '@/ui/Field';
import { Fold, Note, Row } from '@/ui/Parts';
import { usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

const SNAPS = [1, 5, 15, 60] as const;
type Snap = (typeof SNAPS)[number];
const LINKS = [
  {
    href: '/ease',
    label: 'Ease it in',
    about: 'this change in steps that nobody minds, by cap, hours, height or mixture',
  },
  {
    href: '/patterns',
    label: 'A day as I want it',
    about: 'said in hours and light, shaped in several ways; move the beauty, keep the dose',
  },
  {
    href: '/schools',
    label: 'Where keepers disagree',
    about: 'blue or white, long or short, dawn or none: at the same light, with what is proven',
  },
  {
    href: '/around',
    label: 'Night, interludes, weather, clock',
    about: 'what acts on the day besides its threads',
  },
  {
    href: '/fit',
    label: 'Fit to a controller',
    about: 'what fewer points, coarse steps or a timer make of it',
  },
  {
    href: '/lamps',
    label: 'Lamps',
    about: 'what hangs here and how high; another lamp',
  },
  {
    href: '/carry',
    label: 'Carry a day here',
    about: 'from another lamp, depth or height, matched where it is needed',
  },
] as const;

/** How threads slide, what the controller cannot take, and where the day can be worked on further. */
export function DayLinks({
  desk,
  wide,
  children,
}: {
  desk: Desk;
  wide: boolean;
  /** further keys of the day */
  children: ReactNode;
}) {
  const snap = useSettings((x) => x.daySnap);
  const paper = usePaper();
  return (
    <>
      <Misfit desk={desk} />
      <Fold title="Shape, ease, fit or carry this day" open={wide} testID="day-more">
        {children}
        <Choice
          label="Threads slide in steps of"
          value={String(snap)}
          onChange={(v) => changeSettings({ daySnap: Number(v) as Snap })}
          options={SNAPS.map((v) => ({ value: String(v), label: v === 60 ? '1 h' : `${v} min` }))}
        />
        <View>
          {LINKS.map((l) => (
            <Row key={l.href} onPress={() => router.navigate(l.href)} name={l.label}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{l.label}</Type>
                <Type kind="small">{l.about}</Type>
              </View>
              <ChevronRight size={18} color={paper.ink} strokeWidth={1.75} />
            </Row>
          ))}
        </View>
      </Fold>
    </>
  );
}

/** What of the day its controller cannot take. */
function Misfit({ desk }: { desk: Desk }) {
  const kind = desk.lampKind!;
  const wrong = misfits(
    kind,
    desk.group!.threads.map((t) => resolveThread(desk.doc, t)),
  );
  return wrong.length > 0 ? (
    <Note>{`${kind.controller.name}: ${wrong.join('; ')}. Fit the day to it before it is typed in.`}</Note>
  ) : null;
}
