import { useTyped } from '@/state/typed';
import { View } from 'react-native';

import { REFERENCES } from '@/core/library/references';
import { METER_KINDS, type MeterKindId, meterKind, parFactor, parRatio } from '@/core/meter/kinds';
import { transmission } from '@/core/optics/water';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { useDesk } from '@/state/desk';
import { changeSettings, useSettings } from '@/state/settings';
import { Choice, FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Fold, Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { percent } from '@/core/shape/percent';
import { umolExact } from '../shared/words';

const RANGES = ['1', '10', '100'] as const;

/** Lux to PAR under this mix: what a meter shows, and what that is in µmol, with its doubt. */
export function MeterSheet({ light, onClose }: { light: Float64Array; onClose: () => void }) {
  const { doc, spot, zone, plate } = useDesk();
  const kindId = useSettings((s) => s.meter);
  const kind = meterKind(kindId);
  const typed = useTyped(`meter ${plate?.id ?? ''}`);
  const [text, setText] = typed.of('text', '');
  const [range, setRange] = typed.of<(typeof RANGES)[number]>('range', '1');
  const [before, setBefore] = typed.of('before', '');
  const [beforePlate, setBeforePlate] = typed.of('beforePlate', plate?.id ?? '');
  const factor = parFactor(kind, light);
  const shown = parseNumber(text);
  const times = kind.unit === 'lux' ? Number(range) : 1;
  const daylight = parFactor(kind, REFERENCES.find((r) => r.id === 'd65')!.spectrum());
  const earlier = doc.plates.find((p) => p.id === beforePlate);
  const earlierKind = doc.lampKinds.find((k) => k.id === earlier?.lampKindId);
  const through = transmission(zone.water, spot?.depthCm ?? 0);
  const shownBefore = parseNumber(before);
  const ratio =
    shown !== null && shown > 0 && shownBefore !== null && shownBefore > 0 && earlier && earlierKind
      ? parRatio(
          kind,
          {
            shown: shownBefore * times,
            light: mixSpectrum(earlierKind, earlier.mix).map((v, i) => v * through[i]!),
          },
          { shown: shown * times, light },
        )
      : null;
  const bad = (t: string) => {
    const n = parseNumber(t);
    return t.trim() !== '' && (n === null || n < 0) ? 'Give what it shows, a number.' : undefined;
  };
  return (
    <Sheet title="My meter reads" onClose={onClose} typed={typed}>
      <Note kind="eyes">
        Shade your eyes from the lamp before you lean over the tank; never look into it.
      </Note>
      <Choice
        label="Meter"
        value={kindId}
        onChange={(meter: MeterKindId) => changeSettings({ meter })}
        options={METER_KINDS.map((m) => ({ value: m.id, label: m.name }))}
      />
      <TextField
        label="It reads"
        value={text}
        onChange={setText}
        unit={kind.unit}
        numeric
        error={bad(text)}
        testID="meter-reads"
      />
      {kind.unit === 'lux' && (
        <Choice
          label="Range switch of the meter"
          value={range}
          onChange={setRange}
          options={RANGES.map((r) => ({ value: r, label: `× ${r}` }))}
        />
      )}
      {factor ? (
        <View style={{ gap: space.xs }}>
          <Type kind="sentence" testID="meter-par">
            {shown !== null && shown >= 0
              ? `PAR ${umolExact(shown * times * factor.parPerShown)} µmol, ± ${percent(factor.errorShare)}.`
              : `1 ${kind.unit} is ${short(factor.parPerShown)} µmol of PAR here, ± ${percent(factor.errorShare)}.`}
          </Type>
          <Type kind="small">
            {`Estimate for the mix as shown at ${spot?.name ?? 'the coral'}: factor ${short(factor.parPerShown)} from a generic ${kind.name.toLowerCase()} (rule of thumb). The band is about one in three wrong; the same reading under another mix is another PAR.`}
          </Type>
          {daylight && (
            <Type kind="small" testID="meter-fixed">
              {`A fixed factor fails: under daylight this meter would need ${short(daylight.parPerShown)}, so with that the reading would ${
                factor.parPerShown > daylight.parPerShown ? 'miss' : 'overstate'
              } ${short(Math.max(factor.parPerShown / daylight.parPerShown, daylight.parPerShown / factor.parPerShown))} × here.${
                kind.unit === 'lux'
                  ? ' Lux counts what the eye sees, and the eye hardly sees blue and violet.'
                  : ''
              }`}
            </Type>
          )}
        </View>
      ) : (
        <Type>This meter sees nothing of this mix.</Type>
      )}
      <Fold title="Before and after: only the ratio" testID="meter-ratio-fold">
        <Type kind="small">
          With one meter at one place the ratio is surer than either reading: its scale falls out. The change
          of mix is corrected.
        </Type>
        <FieldRow>
          <TextField
            label="Before it read"
            value={before}
            onChange={setBefore}
            unit={kind.unit}
            numeric
            error={bad(before)}
            testID="meter-before"
          />
        </FieldRow>
        <Choice
          label="under the plate"
          value={beforePlate}
          onChange={setBeforePlate}
          options={doc.plates.map((p) => ({ value: p.id, label: p.name }))}
        />
        <Type testID="meter-ratio">
          {ratio
            ? `PAR now is ${ratio.ratio.toFixed(2)} × what it was, ± ${percent(ratio.errorShare)}.`
            : 'Give both readings.'}
        </Type>
      </Fold>
    </Sheet>
  );
}

/** Three figures that mean something. */
const short = (v: number) => String(Number(v.toPrecision(v < 0.1 ? 2 : 3)));
