import { dequal } from 'dequal';
import { memo, useCallback, useDeferredValue, useMemo, useRef, useState } from 'react';
import { Pressable, View } from 'react-native';

import type { Calibration } from '@/core/case/calibration';
import { brightestLevels, spectrumUnder, type ZoneLight } from '@/core/case/light';
import { channelIds, type LitGroup } from '@/core/case/lit';
import { adaptationDegree } from '@/core/colour/adapt';
import { reflected } from '@/core/colour/look';
import { type Xyz, xyzOf } from '@/core/colour/xyz';
import { thing } from '@/core/coral/things';
import { drawnShare, type EyeId, lookerOf } from '@/core/portrait/lookers';
import { formOf, lampLevels, shapeOf } from '@/core/portrait/ofZone';
import { palette } from '@/core/portrait/relight';
import type { PortraitScene } from '@/core/portrait/buffers';
import type { Zone } from '@/core/record/zone';
import { cardPlace, pictureShape, seenAt, viewOf } from '@/core/portrait/view';
import type { Tank } from '@/core/optics/tank';
import { coralWords } from '@/core/portrait/words';
import { percent } from '@/core/shape/percent';
import { Portrait } from '@/pieces/Portrait';
import { type Desk, runningOf } from '@/state/desk';
import { useCalibration } from '@/state/light';
import { usePortrait } from '@/state/portrait';
import { changeSettings, useSettings } from '@/state/settings';
import { useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { downloadPicture } from '@/ui/files';
import { usePageSize } from '@/ui/Page';
import { printOnly } from '@/ui/print';
import { type Finger, Pulled } from '@/ui/Pulled';
import { SliderGrip } from '@/ui/SliderGrip';
import { size, space, themed, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { useSame } from '@/ui/useSame';

import { EyeSheet } from './EyeSheet';
import { BRIGHTNESS, EYES, luxWords } from './eyeWords';
import { MoveCoral } from './MoveCoral';

/** Room that the picture of a tank takes at so many pixels across: what waits for it keeps its place. */
export const lookRoom = (width: number, tank?: Zone['tank']): number =>
  Math.round(width * pictureShape(tank));
/** How much of a stage's picture goes out of sight on a phone: a strip of it stays. */
const STRIP_PX = 62;
export const stageGoes = (width: number, tank?: Zone['tank']): number => lookRoom(width, tank) - STRIP_PX;

type Levels = readonly (readonly number[])[];

export interface Seen {
  desk: Desk;
  groups: readonly LitGroup[];
  light: ZoneLight;
  levels: Levels;
  /** who looks; default as it is set */
  eye?: EyeId;
  /** how bright it is drawn; default as it is set */
  brightness?: 'real' | 'evened';
}

/** The tank's scene, the colours of everything in it under some levels, and who looks. */
function useSeen({ desk, groups, light, levels, eye: eyeAsked, brightness: asked }: Seen) {
  const { doc, zone, bundle, spotIndex } = desk;
  const { wide } = usePageSize();
  const { plateDim } = usePaper();
  const set = useSettings((s) => s.look);
  const eye = eyeAsked ?? set.eye;
  const brightness = asked ?? set.brightness;
  const fish = useSettings((s) => s.fish);
  const eyeDegree = useSettings((s) => s.eyeDegree);
  const cal = useCalibration(bundle, zone);
  const portrait = usePortrait(doc, zone, groups, cal, { fish, card: set.card, wide });
  const now = useSame(levels);
  const spot = Math.max(0, spotIndex);
  const white = useMemo(() => whiteAt(light, now, spot), [light, now, spot]);
  const ran = runningOf(desk, useNowMs()).groups;
  const reference = sameRows(ran, groups) ? ran : groups;
  const most = useMemo(
    () => (zone.spots.length > 0 ? whiteAt(light, brightestLevels(light, [...reference], spot), spot)[1] : 0),
    [light, reference, spot, zone.spots.length],
  );
  const share = plateDim * (brightness === 'real' && most > 0 ? drawnShare(white[1] / most, eye) : 1);
  const looker = useMemo(() => lookerOf(eye, white, eyeDegree, share), [eye, white, eyeDegree, share]);
  const { scene } = portrait;
  const colours = useMemo(() => coloursOf(scene, groups, now, cal), [scene, groups, now, cal]);
  return {
    ...portrait,
    colours,
    looker,
    white,
    look: { ...set, eye, brightness },
    degree: eyeDegree ?? adaptationDegree(white[1]),
  };
}

/** Whether two sets of lamps are the same channels in the same order. */
const sameRows = (a: readonly LitGroup[], b: readonly LitGroup[]): boolean =>
  a.length === b.length &&
  a.every(
    (g, i) => g.groupId === b[i]!.groupId && dequal(channelIds(g.lampKind), channelIds(b[i]!.lampKind)),
  );

const whiteAt = (light: ZoneLight, levels: Levels, spot: number): Xyz =>
  light.spots > spot ? xyzOf(spectrumUnder(light, levels, spot)) : [0, 0, 0];

function coloursOf(
  scene: PortraitScene | null,
  groups: readonly LitGroup[],
  levels: Levels,
  cal: Calibration,
): Float32Array | null {
  const own = scene && lampLevels(scene, groups, levels, cal);
  return own && palette(scene, own);
}

const useStyles = themed((p) => ({
  box: { backgroundColor: '#000000', overflow: 'hidden' },
  // a picture that is being made is not a dark one
  made: { backgroundColor: p.line, overflow: 'hidden' },
  over: { position: 'absolute', left: 0, top: 0 },
  dark: { position: 'absolute', left: space.m, top: space.m, color: '#ffffff' },
  card: { position: 'absolute', color: '#ffffff', backgroundColor: '#000000', paddingHorizontal: 3 },
  divider: { position: 'absolute', top: 0, bottom: 0, width: 2, marginLeft: -1, backgroundColor: p.paper },
  drawing: {
    position: 'absolute',
    right: space.s,
    top: space.s,
    flexDirection: 'row',
    alignItems: 'center',
    gap: space.s,
    paddingHorizontal: space.s,
    backgroundColor: p.paper,
  },
  // in the corner of the picture, so that what stays in sight of it carries its light with it
  line: {
    position: 'absolute',
    left: 0,
    bottom: 0,
    minHeight: 32,
    maxWidth: '100%',
    justifyContent: 'flex-end',
  },
  lineWords: {
    color: '#ffffff',
    backgroundColor: 'rgba(0, 0, 0, 0.6)',
    paddingHorizontal: space.s,
    textDecorationLine: 'underline',
  },
}));

/**
 * The tank as it looks: its own corals and rock, each pixel lit by its own lamps. Touching a coral chooses it.
 * @param beside the same tank under other levels, right of a divider that is dragged
 */
export function Look({
  at,
  width,
  live = false,
  movable = false,
  beside,
  ...of
}: Seen & {
  /** the chosen coral can be taken elsewhere in it */
  movable?: boolean;
  /** where and when, for reading aloud */
  at: string;
  width: number;
  /** a finger moves what is seen */
  live?: boolean;
  beside?: { levels: Levels; name: string; own: string };
}) {
  const styles = useStyles();
  const seen = useSeen(of);
  const box = useRef<View>(null);
  const [open, setOpen] = useState(false);
  const choose = useCallback(() => setOpen(true), []);
  const [divider, setDivider] = useState(0.5);
  const { doc, zone } = of.desk;
  const height = lookRoom(width, zone.tank);
  const { scene, colours, looker, look } = seen;
  const tell = useMemo(
    () => (live ? null : { of, white: seen.white, degree: seen.degree }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [live, of.desk, of.light, seen.white, seen.degree],
  );
  // a sentence for each of eighty corals holds up neither the picture nor what is being stored
  const told = useDeferredValue(tell, null);
  const words = useMemo(() => (told ? seenWords(told.of, told.white, told.degree) : ''), [told]);
  const undescribed = zone.spots.filter((s) => shapeOf(doc, s) && !formOf(doc, s)).length;
  const name = `The tank ${at}${beside ? `, beside it the same under ${beside.name}` : ''}, ${EYES[look.eye]}, ${BRIGHTNESS[look.brightness]}. ${words}`;
  const picture =
    scene && colours ? (
      <Portrait
        {...{ scene, colours, looker, width, height, live }}
        onPick={beside ? undefined : chooseThing}
        to={beside ? divider : 1}
      />
    ) : null;
  const slide = (e: Finger) => setDivider(Math.min(1, Math.max(0, e.x / width)));
  return (
    <View style={{ gap: 2, width }}>
      <View ref={box} style={[styles.box, { width, height }]} testID="look">
        <View style={{ width, height }} role="img" aria-label={name}>
          {picture}
        </View>
        {movable && !beside && scene && <MoveCoral desk={of.desk} {...{ scene, width, height }} />}
        {beside && (
          <Pulled pull={{ onBegin: slide, onUpdate: slide }} style={[styles.over, { width, height }]}>
            <Under {...of} levels={beside.levels} {...{ width, height, live }} from={divider} />
            <View style={[styles.divider, { left: width * divider }]} />
            <SliderGrip
              name={`Divider: left of it ${beside.own}, right of it ${beside.name}`}
              now={Math.round(divider * 100)}
              step={2}
              valueText={`${Math.round(divider * 100)} % from the left`}
              onChange={(now) => setDivider(now / 100)}
              left={width * divider - size.target / 2}
              top={height / 2 - size.target / 2}
              testID="divider"
            />
          </Pulled>
        )}
        {!(seen.white[1] > 0) && (
          <Type kind="small" style={styles.dark} aria-hidden>
            {`No lamp is lit ${at.startsWith('now') ? 'now' : 'then'}.`}
          </Type>
        )}
        {look.card && scene && (
          <Type kind="small" style={[styles.card, cardAt(zone.tank, width, height)]} aria-hidden>
            white card
          </Type>
        )}
        <WhoseEye
          name={`Seen by ${EYES[look.eye]}, ${BRIGHTNESS[look.brightness]}: change`}
          words={[
            `${luxWords(seen.white[1])} at ${of.desk.spot?.name ?? 'the first spot'}`,
            // what is as usual needs no word
            look.eye === 'adapted' ? null : EYES[look.eye],
            look.brightness === 'real' ? null : BRIGHTNESS[look.brightness],
            look.eye === 'adapted' && look.brightness === 'real' && undescribed === 0
              ? 'how it is seen'
              : null,
            undescribed > 0 ? `${undescribed} drawn pale: not described` : null,
          ]
            .filter(Boolean)
            .join(' · ')}
          onOpen={choose}
        />
        {seen.progress !== null && !live && seen.progress > 0 && (
          <View style={styles.drawing} role="status">
            <Type kind="small">{`Drawing ${percent(seen.progress)}`}</Type>
            <Button label="Stop" kind="plain" onPress={seen.cancel} />
          </View>
        )}
        {seen.goOn && (
          <View style={styles.drawing}>
            <Type kind="small">Drawing stopped</Type>
            <Button label="Go on" kind="plain" onPress={seen.goOn} />
          </View>
        )}
      </View>
      <View {...printOnly} aria-hidden testID="look-printed">
        <Type kind="small">{`Seen here: ${words}`}</Type>
      </View>
      {beside && (
        <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: space.s }} aria-hidden>
          <Type kind="small">{`◀ ${beside.own}`}</Type>
          <Type kind="small">{`${beside.name} ▶`}</Type>
        </View>
      )}
      {open && (
        <EyeSheet
          usualDegree={adaptationDegree(seen.white[1])}
          words={words}
          onPicture={() =>
            downloadPicture(
              'tank.png',
              box.current as unknown as Element | null,
              `${doc.name}, ${at}: ${luxWords(seen.white[1])}, ${EYES[look.eye]}, ${BRIGHTNESS[look.brightness]}`,
            )
          }
          onClose={() => setOpen(false)}
        />
      )}
    </View>
  );
}

const chooseThing = (id: string | null) => id !== null && changeSettings({ spotId: id });

/** How bright it is and who looks; opens what that can be. */
const WhoseEye = memo(function WhoseEye({
  name,
  words,
  onOpen,
}: {
  name: string;
  words: string;
  onOpen: () => void;
}) {
  const styles = useStyles();
  return (
    <Pressable role="button" aria-label={name} onPress={onOpen} style={styles.line} testID="whose-eye">
      <Type kind="small" style={styles.lineWords} numberOfLines={1}>
        {words}
      </Type>
    </Pressable>
  );
});

/** Where the white card's name stands: over it. */
function cardAt(tank: Tank, width: number, height: number): { left: number; top: number } {
  const { xCm, yCm } = cardPlace(tank);
  const at = seenAt(viewOf(tank, width, height), xCm, yCm, tank.depthCm);
  return { left: Math.min(width - 72, at.x - 34), top: at.y - 34 };
}

/** The same tank under other levels, right of the divider. */
function Under({
  width,
  height,
  live,
  from,
  ...of
}: Seen & { width: number; height: number; live: boolean; from: number }) {
  const { scene, colours, looker } = useSeen(of);
  return scene && colours ? <Portrait {...{ scene, colours, looker, width, height, live, from }} /> : null;
}

/** One sentence per coral of what is seen, for those who read instead of look. */
function seenWords({ desk, light, levels }: Seen, white: Xyz, degree: number): string {
  const { doc, zone } = desk;
  if (!(white[1] > 0)) return 'It is dark.';
  return zone.spots
    .flatMap((s, i) => {
      if (!shapeOf(doc, s) || light.spots <= i) return [];
      const own = spectrumUnder(light, levels, i);
      const rock = xyzOf(reflected(own, thing('rock').reflectance))[1];
      return [coralWords(s.name, formOf(doc, s), own, white, degree, rock)];
    })
    .join('. ');
}

/** The same small: a thread, an hour, a plate. */
export function Glimpse({ width, name, ...of }: Seen & { width: number; name: string }) {
  const styles = useStyles();
  const { scene, colours, looker } = useSeen(of);
  const height = lookRoom(width, of.desk.zone.tank);
  return (
    <View
      style={[scene ? styles.box : styles.made, { width, height }]}
      role="img"
      aria-label={name}
      testID="glimpse"
    >
      {scene && colours && <Portrait {...{ scene, colours, looker, width, height }} />}
    </View>
  );
}
