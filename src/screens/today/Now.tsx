import { View } from 'react-native';

import type { Judgement } from '@/core/case/judgement';
import { levelsOfGroups, parUnder, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { formatTime } from '@/core/day/clock';
import { kneeMinutes } from '@/core/day/day';
import { percent } from '@/core/shape/percent';
import { DayLine } from '@/pieces/DayLine';
import { Strip } from '@/pieces/Strip';
import type { Desk } from '@/state/desk';
import { askMoment, useMomentAsked } from '@/state/moment';
import { Button } from '@/ui/Button';
import { space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { windowOf } from '../day/model';
import { Look, lookRoom } from '../shared/Look';
import { Stage } from '../shared/Stage';
import { umol, watts } from '../shared/words';
import { nowModel } from './model';
import { Scrub } from './Scrub';

/** The day’s line, until it is drawn. */
const LINE_ROOM = 76;

const useStyles = themed((p) => ({
  parts: { flexDirection: 'row', gap: 3, height: 3 },
  part: { backgroundColor: p.ink },
}));

interface NowProps {
  desk: Desk;
  light: ZoneLight;
  groups: LitGroup[];
  minute: number;
  width: number;
  /** with its pictures, not the figures alone */
  whole: boolean;
}

const whenWords = (asked: number | null): string => (asked === null ? 'now' : `at ${formatTime(asked)}`);

/** The tank now, or at the hour that is looked at. */
export function NowStage({ judged, ...of }: NowProps & { judged: Judgement | null }) {
  const { desk, light, groups, minute, width, whole } = of;
  const { minute: asked, pulling } = useMomentAsked();
  const model = nowModel(light, groups, asked ?? minute, desk.spotIndex);
  const when = whenWords(asked);
  return (
    <Stage
      desk={desk}
      picture={
        whole ? (
          <Look
            {...{ desk, groups, light, width }}
            levels={model.levels}
            live={pulling}
            at={`${when}, the light at ${desk.spot!.name}`}
          />
        ) : (
          <View style={{ height: lookRoom(width, desk.zone.tank) }} />
        )
      }
      figure={model.umol}
      when={when}
      judged={judged}
      ids={{ figure: 'now-umol' }}
    />
  );
}

/** The day under it: its line, dragged to any hour, and what comes next. */
export function NowDay({ basis, ...of }: NowProps & { basis: string }) {
  const styles = useStyles();
  const { desk, light, groups, minute, width, whole } = of;
  const { spot, spotIndex } = desk;
  const asked = useMomentAsked((s) => s.minute);
  const model = nowModel(light, groups, asked ?? minute, spotIndex);
  const { next } = asked === null ? model : nowModel(light, groups, minute, spotIndex);
  const { umol: now, spectrum, parts } = model;
  const when = whenWords(asked);
  const span = windowOf(groups);
  return (
    <View style={{ gap: space.s }}>
      {whole ? (
        <>
          <Scrub
            from={span.from}
            to={span.to}
            width={width}
            minute={asked ?? minute}
            valueText={`${formatTime(Math.floor(asked ?? minute))}, ${umol(now)} µmol`}
            onMinute={askMoment}
          >
            <DayLine
              parAt={(m) => parUnder(light, levelsOfGroups(groups, m), spotIndex)}
              knees={kneeMinutes(groups.map((g) => g.day))}
              {...span}
              nowMinute={minute}
              askedMinute={asked}
              width={width}
              name={`µmol through today at ${spot!.name}, ${when} ${umol(now)}`}
            />
          </Scrub>
          {asked !== null && (
            <Button label="Back to now" kind="plain" onPress={() => askMoment(null)} testID="back-to-now" />
          )}
        </>
      ) : (
        <View style={{ height: LINE_ROOM }} />
      )}
      <Type testID="next-change">
        {next ? (
          <>
            {'Next '}
            <Type kind="strong">{formatTime(next.minute)}</Type>
            {`: ${next.words}`}
          </>
        ) : (
          'No further change today.'
        )}
      </Type>
      {whole ? (
        <Strip
          spectrum={spectrum}
          width={width}
          height={12}
          name={now > 0 ? `Spectrum ${when} at ${spot!.name}` : `Dark ${when}`}
        />
      ) : (
        <View style={{ height: 12 }} />
      )}
      {parts.length > 0 && (
        <View style={styles.parts} aria-hidden>
          {parts.map((p, i) => (
            <View
              key={p.name}
              style={[styles.part, { flex: Math.max(p.share, 0.005), opacity: i % 2 === 0 ? 1 : 0.45 }]}
            />
          ))}
        </View>
      )}
      <Type kind="small">
        {[
          model.peakUmol > 0 ? `${percent(now / model.peakUmol)} of today’s peak` : 'dark all day',
          `${watts(model.watts)} of ${watts(model.fullWatts)}`,
          parts.length > 0 ? parts.map((p) => `${p.name} ${percent(p.share)}`).join(', ') : null,
          `PAR: ${basis}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Type>
    </View>
  );
}
