import { counted } from '@/core/shape/counts';
import { useState } from 'react';
import { Pressable, View } from 'react-native';

import type { CaseDoc, Plate } from '@/core/record/caseDoc';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { Strip } from '@/pieces/Strip';
import { removePlate, renamePlate } from '@/state/commands/plates';
import { useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { ValueField } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { font, space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Glimpse } from '../shared/Look';
import { useUnder } from '../shared/useUnder';

import { keepAsNew } from './keys';
import { PlateDetail } from '../sheets';

/** A plate is known by how the tank looks under it. */
const SMALL = 132;

/** The plates of this lamp kind: choose, copy, rename, remove. */
export function PlateSheet({ doc, onClose }: { doc: CaseDoc; onClose: () => void }) {
  const desk = useDesk();
  const { plate, lampKind, group } = desk;
  const seen = useUnder(desk);
  const [detail, setDetail] = useState(false);
  if (!plate || !lampKind || !group) return null;
  if (detail) return <PlateDetail doc={doc} plate={plate} onClose={onClose} />;
  const plates = doc.plates.filter((p) => p.lampKindId === lampKind.id);
  const uses = (p: Plate) =>
    doc.zones
      .flatMap((z) => z.groups.flatMap((g) => g.threads))
      .filter((t) => 'plateId' in t.mix && t.mix.plateId === p.id).length;
  return (
    <Sheet title="Plates" onClose={onClose}>
      <View style={{ gap: space.s }} role="radiogroup" aria-label="Plate">
        {plates.map((p) => (
          <Pressable
            key={p.id}
            role="radio"
            aria-checked={p.id === plate.id}
            aria-label={p.name}
            onPress={() => changeSettings({ plateId: p.id })}
            style={{ flexDirection: 'row', gap: space.m, paddingVertical: space.s }}
          >
            <View style={{ width: SMALL }}>
              {seen(p.mix) && <Glimpse {...seen(p.mix)!} width={SMALL} name={`The tank under ${p.name}`} />}
            </View>
            <View style={{ flex: 1, gap: 6 }}>
              <View style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
                <Type kind="label" style={p.id === plate.id ? { fontFamily: font.bold } : undefined}>
                  {`${p.id === plate.id ? '● ' : '○ '}${p.name}`}
                </Type>
                <Type kind="small">{uses(p) === 0 ? 'not in a day' : counted(uses(p), 'thread')}</Type>
              </View>
              <Strip
                spectrum={mixSpectrum(lampKind, p.mix)}
                width={190}
                height={10}
                name={`Spectrum of ${p.name} at the lamp`}
              />
            </View>
          </Pressable>
        ))}
      </View>
      <ValueField
        key={plate.id}
        label="Name"
        value={plate.name}
        onCommit={(text) =>
          text.trim() === ''
            ? 'Give the plate a name.'
            : run(renamePlate(plate.id, text.trim()))
              ? null
              : 'Not taken.'
        }
      />
      <View style={{ flexDirection: 'row', gap: space.s, flexWrap: 'wrap' }}>
        <Button label="Copy as a new plate" onPress={() => keepAsNew(plate.id)} />
        <Button label="Versions, notes, blend" onPress={() => setDetail(true)} testID="plate-detail" />
        <Button label="Remove" disabled={plates.length < 2} onPress={() => run(removePlate(plate.id))} />
      </View>
      <Type kind="small">
        Threads that used a removed plate keep its mix as their own. Undo brings it back.
      </Type>
    </Sheet>
  );
}
