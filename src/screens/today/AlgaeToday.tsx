import { router } from 'expo-router';
import { View } from 'react-native';
import ChevronRight from 'lucide-react-native/icons/chevron-right';

import type { Desk } from '@/state/desk';
import { Row, Section } from '@/ui/Parts';
import { usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { algaeSentence } from '../algae/sentence';
import { useMats } from '../algae/useMats';

/** How the algae of this water do, in a sentence; a tap leads to them. */
export function AlgaeToday({ desk, nowMs }: { desk: Desk; nowMs: number }) {
  const paper = usePaper();
  const { mats, groups } = useMats(desk, nowMs);
  return (
    <Section title="Algae">
      <Row onPress={() => router.navigate('/algae')} name="Algae of this water">
        <View style={{ flex: 1 }}>
          <Type testID="today-algae">{algaeSentence(mats, groups.length > 0)}</Type>
        </View>
        <ChevronRight size={20} color={paper.ink} strokeWidth={1.75} />
      </Row>
    </Section>
  );
}
