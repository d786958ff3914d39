import { memo, type RefObject } from 'react';
import type { View } from 'react-native';

import { percent } from '@/core/shape/percent';
import type { Plate } from '@/core/record/caseDoc';
import { channelLevels } from '@/core/spectrum/controls';
import { keptSpectrum, mixSpectrum } from '@/core/spectrum/lamp';
import type { LampKind } from '@/core/spectrum/lampKind';
import { TakeKeys } from '@/ui/TakeAlong';

import { spectraCsv } from '../shared/TakenOutlines';

/** The comb as a drawing or a picture, and its light as a table: the mix, and each channel of it. */
export const TakeComb = memo(function TakeComb({
  box,
  kind,
  plate: { name, mix },
}: {
  box: RefObject<View | null>;
  kind: LampKind;
  plate: Plate;
}) {
  const levels = kind.controls
    .filter((c) => (mix[c.id] ?? 0) > 0)
    .map((c) => `${c.name} ${c.kind === 'onOff' ? 'on' : percent(mix[c.id]!)}`);
  return (
    <TakeKeys
      box={box}
      name="mix"
      caption={`${name}, a plate of ${kind.name}: ${levels.length > 0 ? levels.join(', ') : 'dark'}. Photons over wavelength as one lamp sends them out; the strip below as they arrive. Modelled.`}
      csv={() => {
        const driven = channelLevels(kind, mix);
        const alone = kind.channels.map((c, i) => ({
          name: c.name,
          spectrum: keptSpectrum(c).map((v) => driven[i]! * v),
        }));
        return spectraCsv([{ name, spectrum: mixSpectrum(kind, mix) }, ...alone], 'µmol s⁻¹ nm⁻¹');
      }}
    />
  );
});
