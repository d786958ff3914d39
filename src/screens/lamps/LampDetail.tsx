import { lengthRange } from '@/core/shape/units';
import { useTyped } from '@/state/typed';
import { router } from 'expo-router';
import { useRef, useState } from 'react';
import { View } from 'react-native';
import { bandsHeld } from '@/core/library/held';
import { bandName } from '@/core/mix/shape';
import { par } from '@/core/spectrum/bands';
import { allFull } from '@/core/spectrum/controls';
import { fullWallWatts } from '@/core/spectrum/watts';
import { mixSpectrum } from '@/core/spectrum/lamp';
import type { LampKind } from '@/core/spectrum/lampKind';
import { Strip } from '@/pieces/Strip';
import { addGroup, removeLampKind } from '@/state/commands/lamps';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { run, runIn } from '@/state/session';
import { lampFile } from '@/state/lampFiles';
import { changeSettings } from '@/state/settings';
import { download } from '@/ui/files';
import { Button } from '@/ui/Button';
import { FieldRow, TextField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Note, Row } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { addedLamp } from '@/core/case/firstDay';
import { lights } from '@/state/lights';
import { EyeCaution, TubeCaution } from '../shared/Cautions';
import { gridPoints, SpectrumKeys } from '../shared/spectrumFiles';
import { percent } from '@/core/shape/percent';
import { watts, longWords } from '../shared/words';
import { GiveSheet } from '../sheets';

export const money = (price: number | null) => (price === null ? null : `price about ${price}`);

/** One lamp: channels, what it really holds of each band, cautions; hang it, compare it, change it. */
export function LampDetail({
  kind,
  onEdit,
  onClose,
}: {
  kind: LampKind;
  onEdit: () => void;
  onClose: () => void;
}) {
  const { doc, zone, bundle } = useDesk();
  const typed = useTyped(`hang ${kind.id}`);
  const kept = () => {
    typed.clear();
    onClose();
  };
  const [height, setHeight] = typed.of('height', '20');
  const [error, setError] = useState<string | undefined>(undefined);
  const own = doc.lampKinds.some((k) => k.id === kind.id);
  const hung = doc.zones.some((z) => z.groups.some((g) => g.lampKindId === kind.id));
  const full = mixSpectrum(kind, allFull(kind));
  const bands = bandsHeld(kind);
  const weak = bands.filter((b) => b.holds !== 'real' && b.id !== 'farRed');
  const [hanging, setHanging] = useState(false);
  const [giving, setGiving] = useState(false);
  const under = useRef(false);
  const hang = async () => {
    if (under.current) return;
    const h = parseNumber(height);
    if (h === null || h < 1 || h > 300) return setError(`Height: give ${lengthRange(1, 300)}.`);
    // a library lamp becomes a kind of this case; the same one twice shares the kind
    const copy: LampKind = own ? kind : { ...kind, id: newId() };
    under.current = true;
    setHanging(true);
    const { group, plate } = await addedLamp({
      ...{ bundle, zone, kind: copy, name: kind.name.slice(0, 60), lampName: 'lamp', heightCm: h, lights },
      id: newId,
    }).finally(() => {
      under.current = false;
      setHanging(false);
    });
    if (runIn(bundle.case.id, addGroup(zone.id, copy, plate, group, own))) {
      changeSettings({ groupId: group.id, plateId: plate.id });
      kept();
      router.navigate('/mix');
    }
  };
  if (giving)
    return (
      <GiveSheet
        given={{ letter: 'l', text: lampFile(kind).text }}
        name={kind.name}
        onClose={() => setGiving(false)}
      />
    );
  return (
    <Sheet title={kind.name} onClose={onClose} typed={typed}>
      <Strip spectrum={full} width={320} name={`Spectrum of ${kind.name}, everything full`} />
      {kind.source !== 'led' && <TubeCaution />}
      <EyeCaution />
      <View>
        {kind.channels.map((c) => (
          <Row key={c.id} style={{ minHeight: 40 }}>
            <Type kind="label" style={{ flex: 1 }}>
              {c.name}
            </Type>
            <Type kind="small">
              {c.groups
                .map((g) =>
                  [
                    `${g.count} × ${g.wattsEach} W`,
                    g.light.shape === 'line'
                      ? `${g.light.peakNm}/${g.light.fwhmNm} nm`
                      : g.light.whiteCctK
                        ? `${g.light.whiteCctK} K`
                        : 'table',
                  ].join(', '),
                )
                .join(' + ')}
            </Type>
          </Row>
        ))}
      </View>
      <Type kind="small">
        {[
          `${watts(fullWallWatts(kind))} from the wall, ${Math.round(par(full))} µmol/s of PAR at full (rule of thumb)`,
          `beam ${kind.beamAngleDeg}°`,
          kind.controller.pointStepShare > 0
            ? `steps of ${Math.round(kind.controller.pointStepShare * 100)} %`
            : null,
          kind.controller.interpolation === 'ramp' ? 'ramps' : 'switches',
          money(kind.price),
        ]
          .filter(Boolean)
          .join(' · ')}
      </Type>
      <Type kind="small" testID="bands-held">
        {weak.length === 0
          ? 'Real output in every band.'
          : `Thin or missing: ${weak
              .map((b) => `${bandName(b.id)} (${b.holds === 'none' ? 'none' : percent(b.share)})`)
              .join(
                ', ',
              )}.${weak.some((b) => b.holds !== 'none') ? ' Shares of its photons; of the blues, with all blues full.' : ''}`}
      </Type>
      <FieldRow>
        <TextField
          label="Hang it this high over the water"
          value={height}
          onChange={(t) => {
            setHeight(t);
            setError(undefined);
          }}
          error={error}
          unit="cm"
          numeric
          testID="hang-height"
        />
      </FieldRow>
      {kind.faceLengthCm > zone.tank.lengthCm && (
        <Note>{longWords(kind.faceLengthCm, zone.tank.lengthCm)}</Note>
      )}
      <Note>
        Weight overhead: rated anchors and a second tether. It starts as a draft at little light; set that in
        the lamp before it hangs over corals.
      </Note>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label={hanging ? 'Finding a safe first light …' : 'Hang it here'}
          kind="filled"
          onPress={() => void hang()}
          testID="hang-it"
        />
        <Button
          label="Compare"
          onPress={() => {
            onClose();
            router.navigate(`/compare?with=lamp.${kind.id}` as never);
          }}
        />
        {own && <Button label="Change" onPress={onEdit} />}
        {own && !hung && (
          <Button
            label="Forget it"
            name={`Forget ${kind.name} and its plates`}
            onPress={() => {
              onClose();
              run(removeLampKind(kind.id));
            }}
          />
        )}
        <Button
          label="As a file"
          name={`${kind.name} as a file: spectra, optics, layout, controller`}
          onPress={() => {
            const f = lampFile(kind);
            download(f.name, f.text);
          }}
          testID="lamp-file"
        />
        <Button
          label="As a link"
          name={`Give ${kind.name} along as a link`}
          onPress={() => setGiving(true)}
          testID="lamp-link"
        />
        <SpectrumKeys points={gridPoints(full, 'photon')} quantity="photon" name={kind.name} />
      </View>
    </Sheet>
  );
}
