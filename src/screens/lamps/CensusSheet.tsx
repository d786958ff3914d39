import { plural } from '@/core/shape/counts';
import { useTyped } from '@/state/typed';
import { indexOfNm } from '@/core/spectrum/grid';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';

import { wavelengthColours } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import { newId } from '@/state/id';
import { Button, Stepper } from '@/ui/Button';
import { FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Note, Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { size, space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import type { LampForm } from '../case/lampForm';
import { EyeCaution } from '../shared/Cautions';
import { type Counted, formFromCensus, SEEN, type SeenId } from './census';

/** Census of an unknown lamp: one colour at a time at the lowest level, count its emitters. Ends in a form to look over. */
export function CensusSheet({ onDone, onClose }: { onDone: (form: LampForm) => void; onClose: () => void }) {
  const typed = useTyped('census');
  // eyes are to be shaded anew each time
  const [ready, setReady] = useState(false);
  const [name, setName] = typed.of('name', '');
  const [watts, setWatts] = typed.of('watts', '');
  const [problem, setProblem] = useState<string | null>(null);
  const [done, setDone] = typed.of<Counted[]>('done', []);
  const [kinds, setKinds] = typed.of<Counted['kinds']>('kinds', []);
  const [seen, setSeen] = typed.of<SeenId | null>('seen', null);
  const [count, setCount] = typed.of('count', 1);
  const paper = usePaper();

  if (!ready) {
    return (
      <Sheet title="Count an unknown lamp" onClose={onClose} typed={typed}>
        <EyeCaution />
        <Note kind="eyes">
          Put the lamp where it cannot shine into anyone’s eyes, set its lowest level, and look from the side
          through dark glass or at a photograph of its face. Never count by staring into it.
        </Note>
        <Type>
          Light one colour at a time. For each: what does it look like, and how many emitters light? What
          lights together on one key counts together.
        </Type>
        <TextField label="Name of the lamp" value={name} onChange={setName} testID="census-name" />
        <TextField
          label="Watts stated on the lamp, if any"
          value={watts}
          onChange={setWatts}
          unit="W"
          numeric
          testID="census-watts"
        />
        {problem && (
          <Type kind="label" role="alert">
            {`▲ ${problem}`}
          </Type>
        )}
        <Button
          label="My eyes are shaded: first colour"
          kind="filled"
          wide
          testID="census-begin"
          onPress={() => {
            const w = parseNumber(watts);
            if (name.trim() === '') return setProblem('Name: give the lamp a name.');
            if (watts.trim() !== '' && !(w !== null && w > 0 && w <= 5000))
              return setProblem('Watts: give 1 to 5000, or leave it empty.');
            setProblem(null);
            setReady(true);
          }}
        />
      </Sheet>
    );
  }

  const addKind = () => {
    if (seen === null) return setProblem('Colour: choose what it looks like.');
    setProblem(null);
    setKinds([...kinds, { seen, count }]);
    setSeen(null);
    setCount(1);
  };
  /** The colour in hand, with what is chosen but not yet added. */
  const present = seen === null ? kinds : [...kinds, { seen, count }];
  const next = (): Counted[] | null => {
    if (present.length === 0) {
      setProblem('Colour: choose what lights.');
      return null;
    }
    setProblem(null);
    const all = [...done, { id: newId(), kinds: present }];
    setDone(all);
    setKinds([]);
    setSeen(null);
    setCount(1);
    return all;
  };
  const finish = () => {
    const all = present.length === 0 ? done : next();
    if (!all) return;
    if (all.length === 0) return setProblem('Colour: count at least one.');
    typed.clear();
    onDone(formFromCensus(name.trim(), parseNumber(watts), all));
  };
  const said = (k: Counted['kinds']) =>
    k.map((x) => `${x.count} × ${SEEN.find((s) => s.id === x.seen)!.label}`).join(', ');
  return (
    <Sheet title={`Colour ${done.length + 1}`} onClose={onClose} typed={typed}>
      <Note kind="eyes">Lowest level, from the side, through dark glass.</Note>
      {done.length > 0 && (
        <View testID="census-done">
          {done.map((c, i) => (
            <Row key={c.id} style={{ minHeight: 40 }}>
              <Type kind="small" style={{ flex: 1 }}>{`${i + 1}: ${said(c.kinds)}`}</Type>
              <Button
                label="Remove"
                kind="plain"
                name={`Remove colour ${i + 1}`}
                onPress={() => setDone(done.filter((x) => x.id !== c.id))}
              />
            </Row>
          ))}
        </View>
      )}
      {kinds.length > 0 && <Type kind="label">{`In this colour already: ${said(kinds)}`}</Type>}
      <View style={{ gap: space.s }} role="radiogroup" aria-label="What it looks like">
        <Type kind="label">What it looks like</Type>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
          {SEEN.map((s) => (
            <Pressable
              key={s.id}
              role="radio"
              aria-checked={seen === s.id}
              aria-label={s.label}
              onPress={() => setSeen(s.id)}
              style={{
                flexDirection: 'row',
                alignItems: 'center',
                gap: space.s,
                minHeight: size.target,
                paddingHorizontal: space.m,
                borderWidth: seen === s.id ? 2 : 1,
                borderColor: seen === s.id ? paper.ink : paper.strong,
                borderRadius: 4,
              }}
            >
              {'nm' in s && (
                <View
                  style={{
                    width: 14,
                    height: 14,
                    backgroundColor: cssRgb(wavelengthColours()[indexOfNm(s.nm)]!),
                  }}
                />
              )}
              <Type kind="label">{s.label}</Type>
            </Pressable>
          ))}
        </View>
      </View>
      <View style={{ flexDirection: 'row', alignItems: 'flex-end', gap: space.m }}>
        <FieldRow>
          <TextField
            label="How many"
            value={String(count)}
            onChange={(t) => {
              const n = parseNumber(t);
              if (n !== null && Number.isInteger(n) && n >= 0 && n <= 500) setCount(Math.max(1, n));
            }}
            numeric
            testID="census-count"
          />
        </FieldRow>
        <Stepper
          name="Emitters"
          atLow={count <= 1}
          atHigh={count >= 500}
          onStep={(sign) => setCount(Math.max(1, Math.min(500, count + sign)))}
        />
      </View>
      {problem && (
        <Type kind="label" role="alert">
          {`▲ ${problem}`}
        </Type>
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button label="Others light with it" icon={Plus} onPress={addKind} />
        <Button label="Next colour" kind="filled" onPress={next} testID="census-next" />
        <Button label="That was all" onPress={finish} testID="census-finish" />
      </View>
      <Type kind="small">{`${plural(done.length, 'colour')} counted. Peaks and watts are then guesses to look over.`}</Type>
    </Sheet>
  );
}
