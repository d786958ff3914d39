import { View } from 'react-native';

import { Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

/** What the keyboard does, and where. */
const KEYS: readonly (readonly [keys: string, does: string])[] = [
  ['/', 'find a place, plate, coral, lamp or word by its name; what the words and figures of the page mean'],
  ['A touch on a figure', 'what it is, how it is made, how sure it is'],
  ['?', 'this list'],
  ['Ctrl Z', 'undo; with Shift, redo'],
  ['Tab', 'on to the next thing that can be set; with Shift, back'],
  ['Arrows', 'on a grip, a slider or a choice: one step; with Shift, ten'],
  ['Page up, Page down', 'on a grip or slider: ten steps'],
  ['Home, End', 'on a grip or slider: its least and its most'],
  ['Enter', 'press what is held; on a thread of the day, open it'],
  ['Escape', 'close what is open'],
];

/** The list of keys. */
export function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Sheet title="Keys" onClose={onClose}>
      <View testID="keys">
        {KEYS.map(([keys, does]) => (
          <Row key={keys}>
            <Type kind="label" style={{ width: 120 }}>
              {keys}
            </Type>
            <Type style={{ flex: 1 }}>{does}</Type>
          </Row>
        ))}
      </View>
    </Sheet>
  );
}
