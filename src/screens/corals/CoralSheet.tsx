import { useMemo, useState } from 'react';
import { View } from 'react-native';

import type { CaseDoc } from '@/core/record/caseDoc';
import type { SoloNote, Spot, Zone } from '@/core/record/zone';
import { wantsOf } from '@/core/record/needs';
import { seeUnder } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import { xyzOf } from '@/core/colour/xyz';
import { bandAdvice, conversions, PLAINLY_MOVED, TRIED_SHARE } from '@/core/coral/advice';
import { formOf, shapeOf } from '@/core/portrait/ofZone';
import { FORMS } from '@/core/coral/form';
import { glowByBand, glowDerivative, glowOf } from '@/core/coral/glow';
import { formSeen, lightFrom, regionOptics } from '@/core/coral/seen';
import { bandsHeld } from '@/core/library/held';
import { bandName } from '@/core/mix/shape';
import { BANDS } from '@/core/spectrum/bands';
import type { LampKind } from '@/core/spectrum/lampKind';
import { DashSample } from '@/pieces/Outlines';
import { Strip } from '@/pieces/Strip';
import { addSoloNote, removeForm, removeSoloNote, setSpotForm } from '@/state/commands/spots';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { nowUtcIso } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Fold, Note, Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Figure } from '../shared/Figure';
import { TakenOutlines } from '../shared/TakenOutlines';
import { percent } from '@/core/shape/percent';
import { FitSheet } from './FitSheet';
import { FormSheet } from './FormSheet';
import { Width } from './Width';

const SAW: Record<SoloNote['saw'], string> = { good: 'good', lost: 'lost', hueMoved: 'hue moved' };

/** One coral enlarged: regions, light in and out, what feeds its colour; its form, fitted or edited; notes of lone colours. */
export function CoralSheet({
  doc,
  zone,
  spot,
  kind,
  light,
  eyeLight,
  onClose,
}: {
  doc: CaseDoc;
  zone: Zone;
  spot: Spot;
  kind: LampKind | null;
  /** at this coral */
  light: Float64Array | null;
  /** what the eye has adapted to */
  eyeLight: Float64Array | null;
  onClose: () => void;
}) {
  const form = formOf(doc, spot);
  const shape = shapeOf(doc, spot);
  const [regionId, setRegionId] = useState<string | null>(null);
  const [open, setOpen] = useState<'edit' | 'fit' | null>(null);
  const glow = form && light ? glowOf(form, light) : null;
  const byBand = form && light ? glowByBand(form, light) : null;
  const slope = form && light ? glowDerivative(form, light) : null;
  const region = form?.regions.find((r) => r.id === regionId) ?? form?.regions[0];
  const out = useMemo(() => {
    if (!region || !light) return null;
    const seen = lightFrom(regionOptics(region), light);
    return [
      { name: 'light in', spectrum: light },
      { name: 'sent back', spectrum: seen.reflected.map((v, i) => v + seen.fluorescent[i]!) },
      { name: 'of it glow', spectrum: seen.fluorescent },
    ];
  }, [region, light]);
  const colours = useMemo(() => {
    const eye = eyeLight ? seeUnder(eyeLight) : null;
    if (!form || !light || !eye) return [];
    const evened = eye.white[1] / Math.max(1e-12, xyzOf(light)[1]);
    return formSeen(form, light).map(({ xyz: [x, y, z] }) =>
      cssRgb(eye.colourOf([x * evened, y * evened, z * evened])),
    );
  }, [form, light, eyeLight]);
  if (open === 'edit' && form)
    return <FormSheet zone={zone} spot={spot} form={form} light={light} onClose={() => setOpen(null)} />;
  if (open === 'fit' && form && kind)
    return <FitSheet zone={zone} spot={spot} form={form} kind={kind} onClose={() => setOpen(null)} />;

  const fed = byBand
    ? BANDS.map((b) => ({ name: b.name, share: byBand[b.id] }))
        .filter((b) => b.share >= 0.05)
        .sort((a, b) => b.share - a.share)
    : [];
  const held = kind ? bandsHeld(kind) : [];
  const advised = form && light ? bandAdvice([{ name: spot.name, form }], light, held)[0] : undefined;
  const ranked = slope
    ? BANDS.map((b) => ({ name: b.name, by: slope[b.id] })).sort((a, b) => b.by - a.by)
    : [];
  const wants = wantsOf(spot, zone);
  const turning =
    form && light
      ? conversions([{ name: spot.name, form }], light, wants ? { [spot.name]: wants.toUmol } : {})
      : [];
  const own = doc.forms.some((f) => f.id === form?.id);
  return (
    <Sheet title={spot.name} onClose={onClose}>
      {form && light && eyeLight ? (
        <>
          <View style={{ flexDirection: 'row', gap: space.l, flexWrap: 'wrap' }}>
            <Figure
              of={{ form }}
              id={spot.id}
              light={light}
              eyeLight={eyeLight}
              size={170}
              name={`${spot.name} under this light, enlarged`}
            />
            <View style={{ flex: 1, minWidth: 130, gap: space.xs }}>
              <Type testID="coral-glow">
                {glow
                  ? `${percent(glow.share)} of what the eye gets from it is glow; it stands ${glow.fromRock.toFixed(0)} from rock (CAM16-UCS).`
                  : 'No light here.'}
              </Type>
              {form.regions.map((r, i) => (
                <View key={r.id} style={{ flexDirection: 'row', alignItems: 'center', gap: space.s }}>
                  <View style={{ width: 16, height: 16, backgroundColor: colours[i] }} />
                  <Type kind="small">{`${r.name}: ${percent(glow?.regions[i]?.share ?? 0)} glow`}</Type>
                </View>
              ))}
            </View>
          </View>
          {fed.length > 0 && (
            <Type kind="small" testID="coral-fed">
              {`Its glow is fed by ${fed.map((f) => `${f.name} ${percent(f.share)}`).join(', ')}.`}
              {ranked.length > 0 && ranked[0]!.by > 0
                ? ` More ${ranked[0]!.name} would raise its share most, more ${ranked[ranked.length - 1]!.name} lower it most.`
                : ''}
            </Type>
          )}
          {advised && (
            <Note>{`Of what is thin in this light ${bandName(advised.band)} would change it most: with ${percent(TRIED_SHARE)} of all photons there its colours would move by ${advised.corals[0]!.moves.toFixed(0)} (CAM16-UCS; ${PLAINLY_MOVED} is plainly seen)${held.some((h) => h.id === advised.band && h.holds !== 'real') ? '. This lamp hardly has it' : ''}.`}</Note>
          )}
          {turning.map((t) => (
            <Note key={t.text}>{`${spot.name}: ${t.text}`}</Note>
          ))}
          {out && region && (
            <View style={{ gap: space.s }}>
              <Choice
                label="Light in and out of"
                value={region.id}
                onChange={setRegionId}
                options={form.regions.map((r) => ({ value: r.id, label: r.name }))}
              />
              <TakenOutlines
                file="coral-light"
                caption={`${spot.name}, ${region.name}: ${out.map((o) => o.name.toLowerCase()).join(', ')} over wavelength. Modelled.`}
                unit="µmol m⁻² s⁻¹ nm⁻¹"
                lights={out}
                width={320}
                height={130}
                name={`Light falling on the ${region.name}, light sent back, and glow`}
              />
              {out.map((o, i) => (
                <View key={o.name} style={{ flexDirection: 'row', alignItems: 'center', gap: space.s }}>
                  <DashSample index={i} />
                  <Type kind="small" style={{ width: 74 }}>
                    {o.name}
                  </Type>
                  <Strip spectrum={o.spectrum} width={190} height={10} name={`Strip of ${o.name}`} />
                </View>
              ))}
            </View>
          )}
        </>
      ) : (
        <Type>
          {form
            ? 'Computing the light …'
            : 'Nobody has said yet what this coral is made of. Choose the nearest form below.'}
        </Type>
      )}
      {shape && <Width spot={spot} shape={shape} />}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        {form && <Button label="Change its pigments" onPress={() => setOpen('edit')} testID="edit-form" />}
        {form && kind && (
          <Button label="Fit from lone colours" onPress={() => setOpen('fit')} testID="fit-form" />
        )}
      </View>
      <Fold title={form ? `Form: ${form.name}` : 'Choose a form'} open={!form} testID="choose-form">
        {[...doc.forms, ...FORMS].map((f) => (
          <Row
            key={f.id}
            name={`Form ${f.name}`}
            onPress={() => run(setSpotForm(zone.id, spot.id, f.id))}
            style={{ minHeight: 52 }}
          >
            {light && (
              <Figure
                of={{ form: f }}
                id={f.id}
                light={light}
                eyeLight={eyeLight ?? light}
                size={44}
                name={f.name}
              />
            )}
            <Type kind="label" style={{ flex: 1 }}>{`${f.id === form?.id ? '● ' : ''}${f.name}`}</Type>
          </Row>
        ))}
        {own && <Button label="Remove this form" onPress={() => run(removeForm(form!.id))} />}
      </Fold>
      {form && kind && (
        <SoloNotes zone={zone} spot={spot} kind={kind} regions={form.regions.map((r) => r.name)} />
      )}
    </Sheet>
  );
}

/** What each lone colour did, per region: the newest word counts. */
function SoloNotes({
  zone,
  spot,
  kind,
  regions,
}: {
  zone: Zone;
  spot: Spot;
  kind: LampKind;
  regions: string[];
}) {
  const colours = kind.controls.filter((c) => c.kind === 'level' || c.kind === 'onOff').map((c) => c.name);
  const [colour, setColour] = useState(colours[0] ?? '');
  const [region, setRegion] = useState(regions[0] ?? '');
  return (
    <Section title="What each lone colour did">
      {spot.soloNotes.map((note) => (
        <Row key={note.id} style={{ minHeight: 40 }}>
          <Type
            kind="small"
            style={{ flex: 1 }}
          >{`${note.colour} on the ${note.region}: ${SAW[note.saw]}`}</Type>
          <Button
            label="Remove"
            kind="plain"
            name={`Remove the note on ${note.colour} and ${note.region}`}
            onPress={() => run(removeSoloNote(zone.id, spot.id, note.id))}
          />
        </Row>
      ))}
      <Choice
        label="Colour alone"
        value={colour}
        onChange={setColour}
        options={colours.map((c) => ({ value: c, label: c }))}
      />
      <Choice
        label="Region"
        value={region}
        onChange={setRegion}
        options={regions.map((r) => ({ value: r, label: r }))}
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        {(Object.keys(SAW) as SoloNote['saw'][]).map((saw) => (
          <Button
            key={saw}
            label={`It was ${SAW[saw]}`}
            testID={`saw-${saw}`}
            onPress={() =>
              run(addSoloNote(zone.id, spot.id, { id: newId(), colour, region, saw, atUtc: nowUtcIso() }))
            }
          />
        ))}
      </View>
    </Section>
  );
}
