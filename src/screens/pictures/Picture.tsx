import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Image, Pressable, View } from 'react-native';
import Svg, { Polygon } from 'react-native-svg';

import type { Photo, PhotoPoint } from '@/core/record/log/photo';
import { drawnAround } from '@/core/shape/outline';
import type { At } from '@/core/shape/similarity';
import { photoQuery } from '@/state/photos';
import { localDate, shortDate } from '@/state/time';
import { type Pull, Pulled } from '@/ui/Pulled';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

const SMALL = 104;

/** A small picture with its day; chosen ones have a frame. */
export function Thumbnail({
  photo,
  timeZone,
  chosen,
  onPress,
}: {
  photo: Photo;
  timeZone: string;
  chosen: boolean;
  onPress: () => void;
}) {
  const paper = usePaper();
  const day = shortDate(localDate(Date.parse(photo.atUtc), timeZone));
  const height = Math.round((SMALL * photo.heightPx) / photo.widthPx);
  return (
    <Pressable
      role="button"
      aria-pressed={chosen}
      aria-label={`Picture of ${day}: ${chosen ? 'chosen' : 'choose it'}`}
      onPress={onPress}
      testID={`thumbnail-${photo.id}`}
      style={{
        width: SMALL,
        gap: space.xs,
        borderWidth: 2,
        borderColor: chosen ? paper.ink : 'transparent',
        padding: 2,
      }}
    >
      <Pixels photo={photo} width={SMALL - 8} height={height} />
      <Type kind={chosen ? 'strong' : 'small'}>{day}</Type>
    </Pressable>
  );
}

/** The pixels of a picture, or a blank with why there are none. */
export function Pixels({ photo, width, height }: { photo: Photo; width: number; height: number }) {
  const paper = usePaper();
  const { data, isPending } = useQuery(photoQuery(photo.id));
  return data ? (
    <Image source={{ uri: data.url }} style={{ width, height }} alt="" />
  ) : (
    <View style={{ width, height, backgroundColor: paper.line, justifyContent: 'center', padding: space.xs }}>
      <Type kind="label">{isPending ? 'coming …' : 'not in this browser'}</Type>
    </View>
  );
}

const MARKS: Record<PhotoPoint, string> = { grey: 'G', patch: 'P', first: '1', second: '2' };

/** A line around something on a picture, light over dark so that it is seen on any. */
function Line({ points, width, height }: { points: readonly At[]; width: number; height: number }) {
  const at = points.map(({ x, y }) => `${x * width},${y * height}`).join(' ');
  return (
    <Svg
      width={width}
      height={height}
      style={{ position: 'absolute', left: 0, top: 0, pointerEvents: 'none' }}
    >
      {(['#000000', '#ffffff'] as const).map((stroke, i) => (
        <Polygon
          key={stroke}
          points={at}
          fill="none"
          stroke={stroke}
          strokeWidth={i === 0 ? 4 : 2}
          strokeLinejoin="round"
        />
      ))}
    </Svg>
  );
}

/** A picture on which a finger draws a line around something. */
export function Outlining({
  photo,
  name,
  width,
  corners,
  onOutline,
}: {
  photo: Photo;
  name: string;
  width: number;
  /** corners of a line that is being set point by point */
  corners: readonly At[];
  /** a line was drawn; null = it encloses nothing */
  onOutline: (outline: At[] | null) => void;
}) {
  const height = (width * photo.heightPx) / photo.widthPx;
  const drawn = useRef<At[]>([]);
  const [line, setLine] = useState<readonly At[]>([]);
  const take = (e: { x: number; y: number }) => {
    drawn.current.push({
      x: Math.min(1, Math.max(0, e.x / width)),
      y: Math.min(1, Math.max(0, e.y / height)),
    });
    setLine([...drawn.current]);
  };
  const pull: Pull = {
    onBegin: (e) => {
      drawn.current = [];
      take(e);
    },
    onUpdate: take,
    onFinalize: () => {
      const made = drawnAround(drawn.current, height / width);
      setLine([]);
      onOutline(made);
    },
  };
  const shown = line.length > 0 ? line : corners.length > 0 ? corners : (photo.outline ?? []);
  return (
    <Pulled
      pull={pull}
      style={{ width, height }}
      testID={`outlining-${photo.id}`}
      role="img"
      aria-label={name}
    >
      <Pixels photo={photo} width={width} height={height} />
      {shown.length > 0 && <Line points={shown} width={width} height={height} />}
    </Pulled>
  );
}

/** A picture on which points are set by a tap. */
export function Pointed({
  photo,
  name,
  width,
  active,
  onPoint,
}: {
  photo: Photo;
  name: string;
  width: number;
  /** the point that a tap sets; null = none */
  active: PhotoPoint | null;
  onPoint: (at: At) => void;
}) {
  const paper = usePaper();
  const height = (width * photo.heightPx) / photo.widthPx;
  return (
    <Pressable
      role="img"
      aria-label={name}
      testID={`pointed-${photo.id}`}
      onPress={(event) => {
        const { offsetX, offsetY } = event.nativeEvent as unknown as { offsetX: number; offsetY: number };
        if (active)
          onPoint({
            x: Math.min(1, Math.max(0, offsetX / width)),
            y: Math.min(1, Math.max(0, offsetY / height)),
          });
      }}
      style={{ width, height }}
    >
      <View style={{ pointerEvents: 'none' }}>
        <Pixels photo={photo} width={width} height={height} />
        {photo.outline && <Line points={photo.outline} width={width} height={height} />}
        {(Object.keys(MARKS) as PhotoPoint[]).map((key) => {
          const at = photo[key];
          return at ? (
            <View
              key={key}
              style={{
                position: 'absolute',
                left: at.x * width - 11,
                top: at.y * height - 11,
                width: 22,
                height: 22,
                borderRadius: 11,
                borderWidth: 2,
                borderColor: key === active ? '#ffffff' : '#c0c0c0',
                backgroundColor: 'rgba(0,0,0,0.45)',
                alignItems: 'center',
                justifyContent: 'center',
              }}
            >
              <Type kind="small" style={{ color: '#ffffff', fontSize: 12, lineHeight: 14 }}>
                {MARKS[key]}
              </Type>
            </View>
          ) : null;
        })}
      </View>
      <View style={{ borderWidth: 1, borderColor: paper.line }} />
    </Pressable>
  );
}
