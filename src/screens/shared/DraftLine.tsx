import { plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import { Pressable } from 'react-native';

import { differences } from '@/core/case/difference';
import { dayAt } from '@/core/case/light';
import { type Desk, draftOf, runningOf } from '@/state/desk';
import { useCalibration, useLight } from '@/state/light';
import { useNowMs } from '@/state/time';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { apart, MOL } from './words';

/** A draft that differs from what runs, named in light wherever either is spoken of; it leads to the sheet. */
export function DraftLine({ desk }: { desk: Desk }) {
  const { doc, zone, bundle, spot, spotIndex } = desk;
  const paper = usePaper();
  const nowMs = useNowMs();
  const cal = useCalibration(bundle, zone);
  const { entries, groups } = runningOf(desk, nowMs);
  const draft = draftOf(desk);
  const runs = useLight(groups, zone, cal).light;
  const would = useLight(draft, zone, cal).light;
  const changes = zone.groups.flatMap((g) => {
    const entry = entries.find((e) => e.groupId === g.id);
    return entry ? differences(doc, g, entry) : [];
  });
  if (changes.length === 0) return null;
  const doses =
    runs && would && spot
      ? apart(MOL, dayAt(runs, groups, spotIndex).dli, dayAt(would, draft, spotIndex).dli)
      : null;
  const light = doses ? `, ${doses[1]} instead of ${doses[0]} mol a day at ${spot!.name}` : '';
  const words = `Drafted, not in the lamp yet: ${plural(changes.length, 'change')}${light}.`;
  return (
    <Pressable
      role="link"
      aria-label={`${words} Opens the sheet.`}
      onPress={() => router.navigate('/sheet')}
      testID="draft-line"
      style={{ flexDirection: 'row', alignItems: 'center', gap: space.s, minHeight: 44 }}
    >
      <Type kind="small" style={{ flex: 1 }}>
        {words}
      </Type>
      <ChevronRight size={18} color={paper.ink} strokeWidth={1.75} />
    </Pressable>
  );
}
