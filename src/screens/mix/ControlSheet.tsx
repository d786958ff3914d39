import { View } from 'react-native';

import type { Plate } from '@/core/record/caseDoc';
import { par } from '@/core/spectrum/bands';
import { drivenChannels, type LampKind } from '@/core/spectrum/lampKind';
import { Strip } from '@/pieces/Strip';
import type { Crest } from '@/pieces/combShape';
import { setLocked } from '@/state/commands/plates';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { EyeCaution } from '../shared/Cautions';
import { Glimpse } from '../shared/Look';
import { gridPoints, SpectrumKeys } from '../shared/spectrumFiles';
import { whatItDoes } from './whatItDoes';

/** What one control does: its light alone, in figures and words; solo, lock, and its spectrum as a file. */
export function ControlSheet({
  kind,
  plate,
  controlId,
  crest,
  seen,
  onSolo,
  onClose,
}: {
  kind: LampKind;
  plate: Plate;
  controlId: string;
  /** none for a tint, which has no hump of its own */
  crest: Crest | undefined;
  /** the tank under it alone, as strong as it is in this mix; null until the light is known */
  seen: Omit<Parameters<typeof Glimpse>[0], 'width' | 'name'> | null;
  onSolo: (id: string) => void;
  onClose: () => void;
}) {
  const control = kind.controls.find((c) => c.id === controlId)!;
  const locked = plate.locked.includes(controlId);
  const ids = drivenChannels(control);
  const light = crest && par(crest.full) > 0 ? crest.full : null;
  const what = light ? whatItDoes(light) : null;
  return (
    <Sheet title={control.name} onClose={onClose}>
      {crest?.caution && <EyeCaution />}
      {ids.length > 1 && (
        <Type>
          {control.kind === 'tint'
            ? `From ${control.fromName} to ${control.toName}: moves ${kind.channels
                .filter((c) => ids.includes(c.id))
                .map((c) => c.name.toLowerCase())
                .join(', ')} together.`
            : `Tied together on this lamp: ${kind.channels
                .filter((c) => ids.includes(c.id))
                .map((c) => c.name.toLowerCase())
                .join(', ')}.`}
        </Type>
      )}
      {control.kind === 'trim' && (
        <Type>{`Multiplies its channel by ${control.fromFactor} to ${control.toFactor}.`}</Type>
      )}
      {light && what && (
        <View style={{ gap: space.s }}>
          <Strip spectrum={light} width={320} name={`Spectrum of ${control.name} alone, at the lamp`} />
          {seen && <Glimpse {...seen} width={320} name={`The tank under ${control.name} alone`} />}
          <Type kind="small">{what.figures}</Type>
          <Type>{what.does}</Type>
          <Type kind="small">Uses and doubts: rule of thumb; absorption from published pigment spectra.</Type>
        </View>
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        {crest && (
          <Button
            label="Solo"
            name={`Solo: show ${control.name} alone`}
            onPress={() => {
              onSolo(controlId);
              onClose();
            }}
          />
        )}
        <Button
          label={locked ? 'Unlock' : 'Lock'}
          name={`${locked ? 'Unlock' : 'Lock'} ${control.name}`}
          onPress={() => run(setLocked(plate.id, controlId, !locked))}
        />
        {light && <SpectrumKeys points={gridPoints(light, 'photon')} quantity="photon" name={control.name} />}
      </View>
      {locked && <Note>Locked: pulls, scaling, the photograph mix and carried mixes leave it alone.</Note>}
    </Sheet>
  );
}
