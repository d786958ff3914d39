import { everyNm, indexOfNm } from '@/core/spectrum/grid';
import { Outlines } from '@/pieces/Outlines';
import { usePageSize } from '@/ui/Page';
import { TakeAlong } from '@/ui/TakeAlong';

import { formats } from '../shared/formats';

/** The lights over wavelength, one over the other, with their numbers to take along. */
export function Spectra({
  lights,
  at,
}: {
  lights: readonly { name: string; spectrum: Float64Array }[];
  at: string;
}) {
  const page = usePageSize();
  const names = lights.map((l) => l.name);
  return (
    <TakeAlong
      name="spectra"
      caption={`${names.join(', ')}: photons over wavelength at ${at}, scaled to one light. Modelled.`}
      csv={async () =>
        (await formats()).tableCsv(
          ['nm', ...names.map((n) => `${n} (µmol m⁻² s⁻¹ nm⁻¹)`)],
          everyNm().map((nm) => [
            nm,
            ...lights.map((l) => Number(l.spectrum[indexOfNm(nm)]!.toPrecision(4))),
          ]),
        )
      }
    >
      <Outlines
        lights={lights}
        width={page.main}
        height={page.wide ? 220 : 170}
        name={`Outlines of ${names.join(', ')} over wavelength at the coral`}
      />
    </TakeAlong>
  );
}
