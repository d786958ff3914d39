import coded from 'qrcode-generator';
import { useMemo } from 'react';
import { View } from 'react-native';
import Svg, { Path, Rect } from 'react-native-svg';

import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

/** Cells kept free around it. Mark: standard (ISO/IEC 18004). */
const QUIET = 4;

/** Codes of more letters than this have squares that few cameras tell apart on a phone's screen. Mark: rule of thumb. */
const DENSE = 1500;

/** A text as a QR code, dark on light on any paper; where one holds no text so long, that is said. */
export function Qr({ text, width, name }: { text: string; width: number; name: string }) {
  const made = useMemo(() => {
    try {
      // as large as it has to be, with the least that mends
      const code = coded(0, 'L');
      code.addData(text, 'Byte');
      code.make();
      const count = code.getModuleCount();
      let path = '';
      for (let y = 0; y < count; y += 1)
        for (let x = 0; x < count; x += 1)
          if (code.isDark(y, x)) path += `M${x + QUIET} ${y + QUIET}h1v1h-1z`;
      return { side: count + 2 * QUIET, path };
    } catch {
      return null;
    }
  }, [text]);
  if (!made) return <Type kind="small">It is too long for a QR code: use the link.</Type>;
  return (
    <View style={{ gap: space.xs }}>
      <View role="img" aria-label={name} testID="qr">
        <Svg width={width} height={width} viewBox={`0 0 ${made.side} ${made.side}`}>
          <Rect width={made.side} height={made.side} fill="#ffffff" />
          <Path d={made.path} fill="#000000" />
        </Svg>
      </View>
      {text.length > DENSE && (
        <Type kind="small">Its squares are small: where a camera does not read it, use the link.</Type>
      )}
    </View>
  );
}
