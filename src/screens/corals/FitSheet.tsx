import { useMemo, useState } from 'react';
import { Pressable, View } from 'react-native';

import type { Spot, Zone } from '@/core/record/zone';
import { seeUnder } from '@/core/colour/look';
import { cssRgb } from '@/core/colour/screen';
import { familyWords, fitRegion, patchesFor, SURE_ENOUGH } from '@/core/coral/fit';
import type { CoralForm } from '@/core/coral/form';
import { par } from '@/core/spectrum/bands';
import type { Control, LampKind } from '@/core/spectrum/lampKind';
import { addScaled, zeroSpectrum } from '@/core/spectrum/grid';
import { keptSpectrum } from '@/core/spectrum/lamp';
import { editForm } from '@/state/commands/spots';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { EyeCaution } from '../shared/Cautions';
import { percent } from '@/core/shape/percent';

/** Patches are shown at a plain strength: what matters is their colour against one another. */
const SHOWN_UMOL = 60;
const SOLO_DEGREE = 0.3;

/** Fits a region to what the keeper saw under each lone colour: pick the nearest patch. */
export function FitSheet({
  zone,
  spot,
  form,
  kind,
  onClose,
}: {
  zone: Zone;
  spot: Spot;
  form: CoralForm;
  kind: LampKind;
  onClose: () => void;
}) {
  const paper = usePaper();
  const [regionId, setRegionId] = useState(form.regions[0]!.id);
  const [allPicks, setAllPicks] = useState<Record<string, Record<string, number>>>({});
  const region = form.regions.find((r) => r.id === regionId) ?? form.regions[0]!;
  const picks = allPicks[region.id] ?? {};
  const solos = useMemo(
    () =>
      kind.controls
        .filter((c): c is Extract<Control, { drives: unknown }> => c.kind === 'level' || c.kind === 'onOff')
        .flatMap((c) => {
          const light = zeroSpectrum();
          for (const ch of kind.channels) addScaled(light, keptSpectrum(ch), c.drives[ch.id] ?? 0);
          const p = par(light);
          return p > 0 ? [{ id: c.id, name: c.name, light: light.map((v) => (v * SHOWN_UMOL) / p) }] : [];
        }),
    [kind],
  );
  const all = useMemo(() => solos.map(patchesFor), [solos]);
  const shades = useMemo(
    () =>
      all.map((s) => {
        const eye = seeUnder(s.solo.light, { degree: SOLO_DEGREE });
        // under near UV glow outshines any card: all patches are dimmed alike, so that none burns out
        const top = Math.max(...s.patches.map((p) => p.xyz[1]));
        const dim = eye ? Math.min(1, eye.white[1] / top) : 1;
        return s.patches.map((p) => (eye ? cssRgb(eye.colourOf(p.xyz, dim)) : '#000000'));
      }),
    [all],
  );
  const fit = fitRegion(all, picks);
  const looked = Object.keys(picks).length;
  const pick = (solo: string, index: number) => {
    const next = { ...picks };
    if (next[solo] === index) delete next[solo];
    else next[solo] = index;
    setAllPicks({ ...allPicks, [region.id]: next });
  };
  const use = () => {
    const fitted = {
      ...region,
      brown: fit.region.brown,
      proteins: fit.region.proteins,
      chromo: fit.region.chromo,
    };
    const next = { ...form, regions: form.regions.map((r) => (r.id === region.id ? fitted : r)) };
    if (run(editForm(zone.id, spot.id, next, newId()))) onClose();
  };
  return (
    <Sheet title={`Fit ${spot.name} from lone colours`} onClose={onClose}>
      <EyeCaution />
      <Type kind="small">
        In the dark, light one colour of the lamp alone and low, from the side. Pick for each region the patch
        that comes nearest to what you see; leave out what you did not look at.
      </Type>
      <Choice
        label="Region"
        value={region.id}
        onChange={setRegionId}
        options={form.regions.map((r) => ({ value: r.id, label: r.name }))}
      />
      {all.map((s, k) => (
        <View
          key={s.solo.id}
          style={{ gap: space.xs }}
          role="radiogroup"
          aria-label={`Seen under ${s.solo.name} alone`}
        >
          <Type kind="label">{`${s.solo.name} alone`}</Type>
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.xs }}>
            {s.patches.map((p) => (
              <Pressable
                key={p.index}
                role="radio"
                aria-checked={picks[s.solo.id] === p.index}
                aria-label={`Patch ${p.index + 1} of ${s.patches.length}, from dark to light`}
                onPress={() => pick(s.solo.id, p.index)}
                style={{
                  width: 44,
                  height: 44,
                  padding: 3,
                  borderWidth: picks[s.solo.id] === p.index ? 3 : 1,
                  borderColor: picks[s.solo.id] === p.index ? paper.ink : paper.line,
                }}
              >
                <View style={{ flex: 1, backgroundColor: shades[k]![p.index] }} />
              </Pressable>
            ))}
          </View>
        </View>
      ))}
      <Type kind="sentence" testID="fit-says">
        {looked === 0
          ? 'Nothing picked yet.'
          : fit.confidence < SURE_ENOUGH
            ? `Cannot tell yet: ${familyWords(fit.key)} (${percent(fit.confidence)}) or ${familyWords(fit.others[0]!.key)} (${percent(fit.others[0]!.probability)}).`
            : `Most likely ${familyWords(fit.key)}: ${percent(fit.confidence)}.`}
      </Type>
      {fit.tellMost.length > 0 && (
        <Type kind="small" testID="fit-tell">
          {`Would tell most now: ${fit.tellMost
            .slice(0, 2)
            .map((t) => `${t.name} (${t.bits.toFixed(1)} bits)`)
            .join(', ')}.`}
        </Type>
      )}
      <Button
        label={`Use for the ${region.name}`}
        kind="filled"
        wide
        disabled={looked === 0}
        onPress={use}
        testID="fit-use"
      />
      <Type kind="small">
        An estimate from generic pigment spectra; the percentages say how well the families explain your picks
        against the others.
      </Type>
    </Sheet>
  );
}
