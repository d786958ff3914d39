import { View } from 'react-native';
import { byLog, type Calibration, type Parameter } from '@/core/case/calibration';
import { meterKind } from '@/core/meter/kinds';
import type { Session } from '@/core/record/readings';
import { trustMeter, trustReading } from '@/state/commands/readings';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';
import { umolExact } from '../shared/words';
import { percent } from '@/core/shape/percent';
import { lengthFigure, lengthWords } from '@/core/shape/units';

const UNIT: Partial<Record<Parameter['what'], string>> = {
  yellow: ' per m',
  leanRight: '°',
  leanBack: '°',
};
/** Doubt that fell by less than this says nothing worth a line. Mark: rule of thumb. */
const LEARNT = 0.9;
/** A meter's scale this near to 1 is as it shows. Mark: rule of thumb. */
const AS_SHOWN = 0.02;

/** What readings told: colours always, the rest where they made it surer. */
const told = (p: Parameter): boolean =>
  p.what === 'gain' ||
  (p.what !== 'field' && p.standardError < LEARNT * p.before * (byLog(p.what) ? p.value : 1));

export function Parameters({ cal, sessions }: { cal: Calibration; sessions: readonly Session[] }) {
  const scales = cal.meters.filter((m) => m.trusted || Math.abs(m.scale - 1) >= AS_SHOWN);
  const apart = cal.residuals.filter((r) => r.dropped || r.trusted);
  return (
    <Section title="What was fitted">
      <View testID="parameters">
        {cal.parameters.filter(told).map((p) => (
          <Row key={`${p.what} ${p.groupId} ${p.channelId} ${p.lampId}`} style={{ minHeight: 44 }}>
            <Type kind="label" style={{ flex: 1 }}>
              {p.name}
            </Type>
            <Type kind="strong">
              {p.what === 'height'
                ? lengthWords(p.value, true)
                : `${p.value.toFixed(2)}${UNIT[p.what] ?? ' ×'}`}
            </Type>
            <Type kind="small" style={{ width: 60, textAlign: 'right' }}>
              {`± ${p.what === 'height' ? lengthFigure(p.standardError, true) : p.standardError.toFixed(2)}`}
            </Type>
          </Row>
        ))}
        {scales.map((m) => {
          const name = `${meterKind(m.kind).name}${m.simulated ? ', simulated' : ''}`;
          const use = sessions.find(
            (s) => s.meter.kind === m.kind && s.meter.simulated === m.simulated,
          )!.meter;
          return (
            <Row key={`${m.kind} ${m.simulated}`} style={{ minHeight: 44 }}>
              <View style={{ flex: 1 }}>
                <Type kind="label">{`Scale of: ${name}`}</Type>
                <Type kind="small">
                  {m.trusted
                    ? 'Taken at its word, as you said.'
                    : `Its readings fit best if it shows ${percent(Math.abs(m.scale - 1))} too ${m.scale > 1 ? 'much' : 'little'}, ± ${percent(m.standardError)}.`}
                </Type>
              </View>
              <Button
                label={m.trusted ? 'Fit its scale' : 'Take it at its word'}
                name={`${m.trusted ? 'Fit the scale of' : 'Take at its word'}: ${name}`}
                kind="plain"
                onPress={() => run(trustMeter(use, !m.trusted))}
              />
            </Row>
          );
        })}
        {apart.map((r) => (
          <Row key={r.readingId} style={{ minHeight: 44 }}>
            <View style={{ flex: 1 }}>
              <Type kind="label">{`${r.name}: ${r.trusted ? 'counts, as you said' : 'hardly counts'}`}</Type>
              <Type kind="small">
                {`read ${umolExact(r.observedUmol)}, the others say ${umolExact(r.predictedUmol)} µmol: ${Math.abs(r.sigmas).toFixed(1)} standard deviations off`}
              </Type>
            </View>
            <Button
              label={r.trusted ? 'Leave it to the fit' : 'Bring it back'}
              name={`${r.trusted ? 'Leave to the fit' : 'Bring back'}: ${r.name}`}
              kind="plain"
              onPress={() => run(trustReading(r.sessionId, r.readingId, !r.trusted))}
            />
          </Row>
        ))}
      </View>
      <Type kind="small">
        Times what the lamp’s description says; ± is one standard error. Without readings a colour is 1 ± 0.3
        (rule of thumb), most of it shared by all colours. What readings could not tell stays as it was and is
        not listed.
      </Type>
    </Section>
  );
}
