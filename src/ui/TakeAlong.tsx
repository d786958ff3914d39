import { type ReactNode, type RefObject, useRef, useState } from 'react';
import { View } from 'react-native';
import Download from 'lucide-react-native/icons/download';

import { Button } from './Button';
import { chartPng, chartSvg } from './chartFile';
import { download, keepBlob } from './files';
import { printHide } from './print';
import { space, usePaper } from './theme';
import { Type } from './Type';

interface Props {
  /** what the files are called */
  name: string;
  /** what it shows, of what, as a sentence under it */
  caption: string;
  /** its numbers as CSV */
  csv?: () => Promise<string>;
  /** what is read with the chart and stands before the key */
  under?: ReactNode;
  children: ReactNode;
}

/** A chart that can be taken along: as a drawing (SVG), as a picture (PNG), its numbers as a table (CSV). */
export function TakeAlong({ under, children, ...of }: Props) {
  const box = useRef<View>(null);
  return (
    <View style={{ gap: space.s }}>
      <View ref={box}>{children}</View>
      {under}
      <TakeKeys box={box} {...of} />
    </View>
  );
}

/** The keys of it alone, for a chart that stands elsewhere. */
export function TakeKeys({
  box,
  name,
  caption,
  csv,
}: Omit<Props, 'under' | 'children'> & { box: RefObject<View | null> }) {
  const paper = usePaper();
  const [open, setOpen] = useState(false);
  const [told, setTold] = useState('');
  const drawn = () => chartSvg(box.current as unknown as Element, caption, paper);
  const take = async (as: 'svg' | 'png') => {
    const svg = drawn();
    if (svg && as === 'svg') return download(`${name}.svg`, svg.text, 'image/svg+xml');
    const blob = svg && (await chartPng(svg).catch(() => null));
    if (blob) keepBlob(`${name}.png`, blob);
    else setTold('The browser makes no picture of it.');
  };
  return (
    <View
      style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s, alignItems: 'center' }}
      {...printHide}
    >
      <Button
        label="Take along"
        name={`Take along: ${name}`}
        icon={Download}
        kind="plain"
        onPress={() => setOpen(!open)}
        testID={`take-${name}`}
      />
      {open && (
        <>
          <Button label="SVG" name={`${name} as SVG`} onPress={() => void take('svg')} />
          <Button label="PNG" name={`${name} as PNG`} onPress={() => void take('png')} />
          {csv && (
            <Button
              label="CSV"
              name={`Numbers of ${name} as CSV`}
              onPress={async () => download(`${name}.csv`, await csv(), 'text/csv')}
            />
          )}
        </>
      )}
      {told !== '' && (
        <Type kind="small" role="alert">
          {told}
        </Type>
      )}
    </View>
  );
}
