import { memo, type ReactNode } from 'react';
import { type StyleProp, Text, type TextProps, type TextStyle } from 'react-native';

import { font, themed } from './theme';

const useStyles = themed((p) => ({
  title: { fontFamily: font.serif, fontSize: 30, lineHeight: 36, color: p.ink },
  heading: { fontFamily: font.serif, fontSize: 21, lineHeight: 27, color: p.ink },
  sentence: { fontFamily: font.serif, fontSize: 20, lineHeight: 27, color: p.ink },
  body: { fontFamily: font.sans, fontSize: 16, lineHeight: 23, color: p.ink },
  strong: { fontFamily: font.bold, fontSize: 16, lineHeight: 23, color: p.ink },
  label: { fontFamily: font.medium, fontSize: 14, lineHeight: 19, color: p.ink },
  small: { fontFamily: font.sans, fontSize: 13, lineHeight: 18, color: p.quiet },
  figure: { fontFamily: font.bold, fontSize: 54, lineHeight: 58, color: p.ink },
  tabular: { fontVariant: ['tabular-nums'] },
  quiet: { color: p.quiet },
}));

export type TypeKind = 'title' | 'heading' | 'sentence' | 'body' | 'strong' | 'label' | 'small' | 'figure';

interface Props extends Omit<TextProps, 'style'> {
  kind?: TypeKind;
  quiet?: boolean;
  /** lines kept free for words that are still to come, so that nothing beneath moves then */
  roomLines?: number;
  style?: StyleProp<TextStyle>;
  children: ReactNode;
}

/** Spaces between a figure and its unit, and after ±. */
const WITHIN_FIGURE =
  /(?<=\d) (?=[×%]|(?:µmol|mol|k?lux|k?Wh?|K|nm|cm|ppm|ppb|ppt|dKH|meq|SG|ml|mg|h|min)\b)|(?<=±) (?=\d)/gu;
/** No line ends within a figure. */
const whole = (text: ReactNode): ReactNode =>
  typeof text === 'string'
    ? text.replace(WITHIN_FIGURE, '\u00a0')
    : Array.isArray(text)
      ? text.map(whole)
      : text;

/** All text: one quiet serif for titles and sentences, one legible sans with tabular figures for what is read. */
export const Type = memo(function Type({
  kind = 'body',
  quiet = false,
  roomLines = 0,
  style,
  children,
  ...rest
}: Props) {
  const styles = useStyles();
  const heading = kind === 'title' ? 1 : kind === 'heading' ? 2 : undefined;
  return (
    <Text
      {...rest}
      {...(heading ? { role: 'heading' as const, 'aria-level': heading } : {})}
      style={[
        styles[kind],
        styles.tabular,
        quiet && styles.quiet,
        roomLines > 0 && { minHeight: roomLines * styles[kind].lineHeight },
        style,
      ]}
    >
      {whole(children)}
    </Text>
  );
});
