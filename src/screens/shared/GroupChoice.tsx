import { View } from 'react-native';
import Svg, { Rect, Text } from 'react-native-svg';

import { useKeptDesk } from '@/state/desk';
import { changeSettings } from '@/state/settings';
import { Choice } from '@/ui/Field';
import { font, space, usePaper } from '@/ui/theme';

const PLAN_WIDTH = 132;

/** Which lamps: a small plan of the tank with its groups in place, and the choice of one. Hidden while there is only one. */
export function GroupChoice() {
  const { doc, zone, group } = useKeptDesk();
  const paper = usePaper();
  if (zone.groups.length < 2 || !group) return null;
  const choose = (groupId: string) => changeSettings({ groupId, plateId: null });
  const scale = PLAN_WIDTH / zone.tank.lengthCm;
  const height = Math.max(36, zone.tank.widthCm * scale);
  return (
    <View style={{ flexDirection: 'row', gap: space.l, alignItems: 'center' }}>
      <Svg width={PLAN_WIDTH} height={height} aria-hidden style={{ flexShrink: 0 }}>
        <Rect
          x={0.75}
          y={0.75}
          width={PLAN_WIDTH - 1.5}
          height={height - 1.5}
          fill="none"
          stroke={paper.ink}
          strokeWidth={1.5}
        />
        {zone.groups.flatMap((g) =>
          g.lamps.map((l) => {
            const kind = doc.lampKinds.find((k) => k.id === g.lampKindId)!;
            const w = Math.max(6, kind.faceLengthCm * scale);
            const h = Math.max(5, kind.faceWidthCm * scale);
            return (
              <Rect
                key={l.id}
                x={l.xCm * scale - w / 2}
                y={height - l.yCm * scale - h / 2}
                width={w}
                height={h}
                fill={g.id === group.id ? paper.ink : paper.paper}
                stroke={paper.ink}
                strokeWidth={1}
                strokeDasharray={g.id === group.id ? undefined : '3 2'}
                onPress={() => choose(g.id)}
                testID={`plan-${g.name}-${l.name}`}
              />
            );
          }),
        )}
        <Text x={4} y={height - 4} fontSize={10} fontFamily={font.sans} fill={paper.quiet}>
          front
        </Text>
      </Svg>
      <Choice
        label="Lamps"
        value={group.id}
        options={zone.groups.map((g) => ({ value: g.id, label: g.name }))}
        onChange={choose}
      />
    </View>
  );
}
