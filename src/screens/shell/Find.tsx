import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';

import { showKeys } from '@/state/finding';
import { useSession } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { TextField } from '@/ui/Field';
import { Button } from '@/ui/Button';
import { Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { spaced } from '@/ui/touched';
import { Type } from '@/ui/Type';

import { type Found, findable, finds, wordsOn } from './find';

const MOST_RECENT = 8;

/** Every place, plate, coral, lamp, thread, action and word by its name; what was gone to last comes first. */
export function Find({ onClose }: { onClose: () => void }) {
  const doc = useSession((s) => s.bundle?.case);
  const recent = useSettings((s) => s.recent);
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const [told, setTold] = useState<string | null>(null);
  const all = useMemo(() => (doc ? findable(doc) : []), [doc]);
  // read once, as it opens: the page lies behind it
  const [here] = useState(() =>
    wordsOn(
      typeof document === 'undefined' ? '' : spaced(document.querySelector('[role=main]')?.textContent ?? ''),
    ),
  );
  const found = finds(all, typed, recent);
  const words = typed.trim() === '' ? all.filter((f) => here.includes(f.id)) : [];
  const go = (f: Found) => {
    changeSettings({
      ...f.chooses,
      recent: [f.id, ...recent.filter((id) => id !== f.id)].slice(0, MOST_RECENT),
    });
    if (f.means) return setTold(told === f.id ? null : f.id);
    onClose();
    router.navigate(f.to as never);
  };
  const onKey = (key: string): boolean => {
    const by = key === 'ArrowDown' ? 1 : key === 'ArrowUp' ? -1 : 0;
    if (by !== 0) setAt(Math.min(found.length - 1, Math.max(0, at + by)));
    else if (key === 'Enter' && found[at]) go(found[at]);
    else return false;
    return true;
  };
  return (
    <Sheet title="Find" onClose={onClose}>
      <TextField
        label="A place, plate, coral, lamp, time, or a word"
        value={typed}
        onChange={(text) => {
          setTyped(text);
          setAt(0);
        }}
        autoFocus
        testID="find"
        onKey={onKey}
      />
      {words.length > 0 && (
        <View style={{ gap: space.s }} testID="find-words">
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: space.m }}>
            <Type kind="small">Words on this page; a touch on a figure tells of it too:</Type>
            {words.map((f) => (
              <Button
                key={f.id}
                label={f.name}
                name={`${f.name}, what it means`}
                kind="plain"
                onPress={() => setTold(told === f.id ? null : f.id)}
              />
            ))}
          </View>
          {words.map(
            (f) =>
              told === f.id && (
                <Type key={f.id} testID="word-means" role="status">
                  {f.means}
                </Type>
              ),
          )}
        </View>
      )}
      <View role="list" aria-label="Found">
        {found.map((f, i) => (
          <View key={f.id} role="listitem">
            <Row name={`${f.name}, ${f.kind}`} onPress={() => go(f)}>
              <Type
                kind={i === at ? 'strong' : 'label'}
                style={{ flex: 1 }}
                testID={i === at ? 'find-first' : undefined}
              >
                {f.name}
              </Type>
              <Type kind="small">{f.kind}</Type>
            </Row>
            {told === f.id && <Type testID="find-means">{f.means}</Type>}
          </View>
        ))}
      </View>
      {found.length === 0 && (
        <Type role="status">{`Nothing here is called “${typed.trim()}”. Try another word.`}</Type>
      )}
      <Button label="Keys" name="Keys of the keyboard" kind="plain" onPress={showKeys} testID="show-keys" />
    </Sheet>
  );
}
