import { useEffect, useLayoutEffect, useRef } from 'react';

interface Props {
  /** RGBA bytes, row by row */
  pixels: Uint8ClampedArray;
  columns: number;
  rows: number;
  width: number;
  height: number;
  /** spoken name; without it the field is decoration */
  name?: string;
  smooth?: boolean;
}

const useDraw = typeof window === 'undefined' ? useEffect : useLayoutEffect;

/** A field of computed pixels, stretched to its box. */
export function PixelField({ pixels, columns, rows, width, height, name, smooth = true }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useDraw(() => {
    const context = canvas.current?.getContext?.('2d');
    if (!context) return;
    const image = context.createImageData(columns, rows);
    image.data.set(pixels);
    context.putImageData(image, 0, 0);
  }, [pixels, columns, rows]);
  return (
    <canvas
      ref={canvas}
      width={columns}
      height={rows}
      {...(name ? { role: 'img', 'aria-label': name } : { 'aria-hidden': true })}
      style={{ width, maxWidth: '100%', height, display: 'block', imageRendering: smooth ? 'auto' : 'pixelated' }}
    />
  );
}
