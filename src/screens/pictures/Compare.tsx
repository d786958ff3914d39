import { useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';

import { grownBetween, outlinedOf } from '@/core/case/outlines';
import { unlike } from '@/core/case/pictures';
import { deltaE, movedBy, type PatchColour, patchColour } from '@/core/colour/patch';
import type { Photo, PhotoPoint } from '@/core/record/log/photo';
import { type At, AS_IT_IS, LEAST_POINTS, MOST_POINTS, similarity } from '@/core/shape/similarity';
import { areaWords, lengthRange } from '@/core/shape/units';
import { setEvent } from '@/state/commands/log';
import { useDesk } from '@/state/desk';
import { meanQuery } from '@/state/photos';
import { run } from '@/state/session';
import { localDate, longDate } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { usePageSize } from '@/ui/Page';
import { Fold, Row, Section } from '@/ui/Parts';
import { Rail } from '@/ui/Rail';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { NumberField } from '../shared/fields';
import { Outlining, Pixels, Pointed } from './Picture';
import { apartWords, grownWords, moreWords, movedWords, noiseOf } from './words';

type Set = PhotoPoint | 'outline';
const POINTS: Record<Set, string> = {
  grey: 'grey card',
  patch: 'patch',
  first: 'first point',
  second: 'second point',
  outline: 'outline',
};
type Way = 'beside' | 'divider';

/** Two pictures beside or over one another, with what speaks against comparing them, and a patch followed over all of them. */
export function Compare({
  pictures,
  pair: [a, b],
}: {
  pictures: readonly Photo[];
  pair: readonly [Photo, Photo];
}) {
  const { zone, bundle } = useDesk();
  const page = usePageSize();
  const [way, setWay] = useState<Way>('beside');
  const [active, setActive] = useState<Set>('grey');
  const [at, setAt] = useState(50);
  const day = (p: Photo) => longDate(Date.parse(p.atUtc), zone.timeZone);
  const against = unlike(a, b, zone, bundle.history, bundle.log);
  const set = (p: Photo, change: Partial<Photo>) =>
    run(setEvent({ ...p, ...change }, `${POINTS[active]} of a picture`));
  const width = page.wide ? (page.main - space.m) / 2 : page.main;
  return (
    <Section title={`${day(a)} and ${day(b)}`}>
      {against.length > 0 && (
        <Type testID="pictures-unlike">{`▲ Not alike: ${against.join('; ')}. What differs may come from that.`}</Type>
      )}
      <Choice
        label="How"
        hideLabel
        value={way}
        onChange={setWay}
        options={[
          { value: 'beside', label: 'beside one another' },
          { value: 'divider', label: 'over one another' },
        ]}
      />
      {way === 'beside' ? (
        <>
          <Choice
            label="On the pictures you set the"
            value={active}
            onChange={setActive}
            options={(Object.keys(POINTS) as Set[]).map((value) => ({ value, label: POINTS[value] }))}
          />
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.m }}>
            {[a, b].map((p) => (
              <View key={p.id} style={{ gap: space.xs, width }}>
                {active === 'outline' ? (
                  <OutlineOf {...{ p, width }} day={day(p)} onSet={(outline) => set(p, { outline })} />
                ) : (
                  <PointOf {...{ p, active, width }} day={day(p)} onSet={(at) => set(p, { [active]: at })} />
                )}
              </View>
            ))}
          </View>
        </>
      ) : (
        <Over {...{ a, b, at }} width={page.main} onAt={setAt} names={[day(a), day(b)]} />
      )}
      <Patch pictures={pictures} pair={[a, b]} day={day} />
      <Growth pictures={pictures} pair={[a, b]} day={day} onApart={(apartCm) => set(b, { apartCm })} />
    </Section>
  );
}

interface SetOf<T> {
  p: Photo;
  width: number;
  day: string;
  onSet: (set: T) => void;
}

/** Where a point lies on a picture, by a tap or by keys. */
function PointOf({ p, active, width, day, onSet }: SetOf<At> & { active: PhotoPoint }) {
  return (
    <>
      <Pointed {...{ photo: p, active, width }} name={`${day}: ${POINTS[active]}`} onPoint={onSet} />
      <Type kind="small">{`${day}${p.lit === '' ? '' : `, ${p.lit}`}`}</Type>
      <Fold title="Place it by numbers" testID={`by-numbers-${p.id}`}>
        <AtKeys name={`${POINTS[active]} on ${day}`} id={p.id} at={p[active]} {...{ width }} onAt={onSet} />
      </Fold>
    </>
  );
}

/** Two rails for a point of a picture. */
function AtKeys({
  name,
  id,
  at,
  width,
  onAt,
}: {
  name: string;
  id: string;
  at: At | undefined;
  width: number;
  onAt: (at: At) => void;
}) {
  const here = at ?? { x: 0.5, y: 0.5 };
  return (['x', 'y'] as const).map((axis) => (
    <Rail
      key={axis}
      label={`${name}, ${axis === 'x' ? 'from the left' : 'from above'}`}
      value={Math.round(1000 * here[axis]) / 10}
      min={0}
      max={100}
      step={0.5}
      valueText={`${Math.round(100 * here[axis])} %`}
      width={width}
      onChange={(v) => onAt({ ...here, [axis]: v / 100 })}
      testID={`point-${axis}-${id}`}
    />
  ));
}

/** A line around the coral, drawn by a finger in one go or set corner by corner. */
function OutlineOf({ p, width, day, onSet }: SetOf<At[] | undefined>) {
  const [corners, setCorners] = useState<readonly At[]>([]);
  const [next, setNext] = useState<At>({ x: 0.5, y: 0.5 });
  return (
    <>
      <Outlining
        {...{ photo: p, width, corners }}
        name={`${day}: ${p.outline ? 'the coral is outlined' : 'draw around the coral'}`}
        onOutline={(outline) => {
          setCorners([]);
          if (outline) onSet(outline);
        }}
      />
      <Type kind="small">{`${day}: ${p.outline ? 'outlined. Draw again to do it anew.' : 'draw around the coral in one go.'}`}</Type>
      <Fold title="Corner by corner" testID={`corners-${p.id}`}>
        <AtKeys name={`next corner on ${day}`} id={p.id} at={next} {...{ width }} onAt={setNext} />
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
          <Button
            label={`Set corner ${corners.length + 1}`}
            onPress={() => corners.length < MOST_POINTS && setCorners([...corners, next])}
            testID={`corner-${p.id}`}
          />
          {corners.length >= LEAST_POINTS && (
            <Button
              label="Close the line"
              onPress={() => {
                onSet([...corners]);
                setCorners([]);
              }}
              testID={`close-${p.id}`}
            />
          )}
          {corners.length > 0 && (
            <Button label="Take one back" kind="plain" onPress={() => setCorners(corners.slice(0, -1))} />
          )}
        </View>
      </Fold>
      {p.outline && (
        <Button
          label="Take the line away"
          kind="plain"
          onPress={() => onSet(undefined)}
          testID={`no-line-${p.id}`}
        />
      )}
    </>
  );
}

/** How much the coral has grown between two pictures, by the lines around it against two points that do not grow. */
function Growth({
  pictures,
  pair,
  day,
  onApart,
}: {
  pictures: readonly Photo[];
  pair: readonly [Photo, Photo];
  day: (p: Photo) => string;
  onApart: (cm: number) => void;
}) {
  const { zone } = useDesk();
  const all = outlinedOf(pictures);
  const [from, to] = pair.map((p) => all.find((o) => o.photo.id === p.id));
  const apartCm = pictures.findLast((p) => p.apartCm !== undefined)?.apartCm ?? null;
  return (
    <View style={{ gap: space.s }} testID="growth">
      <Type>
        {from && to
          ? grownWords(grownBetween(from, to, all, zone), [from.cm2, to.cm2])
          : 'To see how much it grew, draw around the coral on both pictures, and set the first and the second point to two things that do not grow.'}
      </Type>
      {from && to && (
        <View style={{ maxWidth: 220 }}>
          <NumberField
            label="First to second point"
            value={apartCm}
            unit="cm"
            low={0.1}
            high={300}
            wrong={`Give ${lengthRange(0.1, 300)}: how far apart the two points are in the tank.`}
            take={(cm) => {
              onApart(cm);
              return true;
            }}
            testID="points-apart"
          />
        </View>
      )}
      {all.length > 2 && (
        <View>
          {all.map((o, i) => (
            <Row key={o.photo.id} style={{ minHeight: 40 }}>
              <Type style={{ flex: 1 }}>{day(o.photo)}</Type>
              <Type kind="label">
                {[
                  o.cm2 === null ? '' : areaWords(o.cm2),
                  i === 0 ? 'the first' : moreWords(grownBetween(all[0]!, o, all, zone)),
                ]
                  .filter(Boolean)
                  .join(', ')}
              </Type>
            </Row>
          ))}
        </View>
      )}
    </View>
  );
}

/** The later picture laid over the earlier one by two points of each, up to a line that is pulled. */
function Over({
  a,
  b,
  at,
  width,
  names,
  onAt,
}: {
  a: Photo;
  b: Photo;
  /** where the line stands, % from the left */
  at: number;
  width: number;
  names: readonly [string, string];
  onAt: (at: number) => void;
}) {
  const height = (width * a.heightPx) / a.widthPx;
  const over = (width * b.heightPx) / b.widthPx;
  const shape = (p: Photo) => p.heightPx / p.widthPx;
  const both = a.first && a.second && b.first && b.second;
  const inWidths = (p: Photo, at_: { x: number; y: number }) => ({ x: at_.x, y: at_.y * shape(p) });
  const by = both
    ? similarity(
        [inWidths(b, b.first!), inWidths(b, b.second!)],
        [inWidths(a, a.first!), inWidths(a, a.second!)],
      )
    : AS_IT_IS;
  return (
    <View style={{ gap: space.s }}>
      <View
        style={{ width, height, overflow: 'hidden' }}
        testID="pictures-over"
        role="img"
        aria-label={`${names[0]} left of the line, ${names[1]} right of it`}
      >
        <Pixels photo={a} width={width} height={height} />
        <View
          style={{
            position: 'absolute',
            left: (at / 100) * width,
            top: 0,
            width,
            height,
            overflow: 'hidden',
          }}
        >
          <div
            style={{
              position: 'absolute',
              left: -(at / 100) * width,
              top: 0,
              width,
              height: over,
              transformOrigin: '0 0',
              transform: `matrix(${by.a}, ${by.b}, ${-by.b}, ${by.a}, ${by.dx * width}, ${by.dy * width})`,
            }}
          >
            <Pixels photo={b} width={width} height={over} />
          </div>
        </View>
        <View
          style={{
            position: 'absolute',
            left: (at / 100) * width - 1,
            top: 0,
            width: 2,
            height,
            backgroundColor: '#ffffff',
          }}
        />
      </View>
      <Rail
        hideLabel
        label={`The line between ${names[0]} and ${names[1]}`}
        value={at}
        min={0}
        max={100}
        step={1}
        valueText={`${at} % of ${names[0]}`}
        width={width}
        onChange={onAt}
        testID="pictures-line"
      />
      {!both && (
        <Type kind="small">
          Set the first and second point on both, beside one another, to things that do not grow: then they
          lie on one another here.
        </Type>
      )}
    </View>
  );
}

/** The colour of the patch in every picture of the series that has one, against the first. */
function Patch({
  pictures,
  pair,
  day,
}: {
  pictures: readonly Photo[];
  pair: readonly [Photo, Photo];
  day: (p: Photo) => string;
}) {
  const { zone } = useDesk();
  // all of the coral says more than a patch of it, which may be a polyp once and once not
  const byLine = pair.every((p) => p.outline);
  const what = (p: Photo) => (byLine ? p.outline : p.patch);
  const means = useQueries({
    queries: pictures.flatMap((p) => [meanQuery(p.id, p.grey), meanQuery(p.id, what(p))]),
  });
  const colours = pictures.map((p, i): { p: Photo; colour: PatchColour | null; burnt: boolean } => {
    const [grey, patch] = [means[2 * i]!.data, means[2 * i + 1]!.data];
    const colour = grey && patch && p.grey && what(p) ? patchColour(patch, grey) : null;
    return { p, colour, burnt: Boolean(grey && patch && !colour) };
  });
  const known = colours.flatMap(({ p, colour }) => (colour ? [{ p, colour }] : []));
  const noise = noiseOf(
    known.map(({ p, colour }) => ({ day: localDate(Date.parse(p.atUtc), zone.timeZone), colour })),
  );
  const of = (p: Photo) => known.find((k) => k.p.id === p.id)?.colour;
  const [from, to] = [of(pair[0]), of(pair[1])];
  return (
    <View style={{ gap: space.s }} testID="patch">
      <Type>
        {from && to
          ? movedWords(movedBy(from, to), noise, byLine ? 'What the line encloses' : 'The patch')
          : colours.some((c) => c.burnt && pair.includes(c.p))
            ? 'The grey card is burnt out or black in one of them: it balances nothing there.'
            : 'To compare its colour, set the grey card on both pictures, and a patch or an outline on the coral.'}
      </Type>
      {known.length > 2 && (
        <View>
          {known.map(({ p, colour }, i) => (
            <Row key={p.id} style={{ minHeight: 40 }}>
              <Type style={{ flex: 1 }}>{day(p)}</Type>
              <Type kind="label">
                {i === 0 ? 'the first' : apartWords(deltaE(known[0]!.colour, colour), noise)}
              </Type>
            </Row>
          ))}
        </View>
      )}
    </View>
  );
}
