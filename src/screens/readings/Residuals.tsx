import { View } from 'react-native';
import { type Calibration } from '@/core/case/calibration';
import { litWords } from '@/core/case/walk';
import { type Desk } from '@/state/desk';
import { Row, Section } from '@/ui/Parts';
import { Type } from '@/ui/Type';
import { umolExact } from '../shared/words';

export function Residuals({ desk, cal }: { desk: Desk; cal: Calibration }) {
  const sessions = desk.bundle.readings.sessions;
  const groups = desk.zone.groups.length;
  const sorted = [...cal.residuals].sort((a, b) => Math.abs(b.sigmas) - Math.abs(a.sigmas));
  return (
    <Section title="Reading by reading">
      <View testID="residuals">
        {sorted.map((r) => {
          const session = sessions.find((s) => s.id === r.sessionId);
          const reading = session?.readings.find((x) => x.id === r.readingId);
          return (
            <Row key={r.readingId}>
              <View style={{ flex: 1 }}>
                <Type kind={r.suspect ? 'strong' : 'label'}>{`${r.suspect ? '▲ ' : ''}${r.name}`}</Type>
                <Type kind="small">
                  {`${reading && session ? litWords(reading, session, groups) : ''}${r.dropped ? ' · hardly counts in the fit' : r.suspect ? ' · likely a bad reading' : ''}${r.fitsIf.length > 0 ? `; it would fit if ${r.fitsIf.join(', or if ')}` : ''}`}
                </Type>
              </View>
              <View style={{ alignItems: 'flex-end' }}>
                <Type kind="label">{`read ${umolExact(r.observedUmol)}, fit ${umolExact(r.predictedUmol)}`}</Type>
                <Type kind="small">{`${r.sigmas > 0 ? '+' : '−'}${Math.abs(r.sigmas).toFixed(1)} standard deviations`}</Type>
              </View>
            </Row>
          );
        })}
      </View>
      <Type kind="small">
        In µmol of PAR: what the meter showed, corrected for its kind, the mix and water on the sensor.
      </Type>
    </Section>
  );
}
