import { memo, useMemo } from 'react';

import { PixelField } from '@/ui/PixelField';
import { usePaper } from '@/ui/theme';

import { stripPixels } from './pixels';

interface Props {
  /** photon spectrum on the grid */
  spectrum: Float64Array;
  width: number;
  height?: number;
  name: string;
}

/** The spectrum as a spectrograph would record it: the glyph of every mix, thread and moment. */
export const Strip = memo(function Strip({ spectrum, width, height = 22, name }: Props) {
  const { plateDim } = usePaper();
  const { pixels, columns } = useMemo(() => stripPixels(spectrum, plateDim), [spectrum, plateDim]);
  return <PixelField pixels={pixels} columns={columns} rows={1} width={width} height={height} name={name} />;
});
