import { lengthRange, lengthWords } from '@/core/shape/units';
import { useState } from 'react';
import { router } from 'expo-router';
import { Controller, type Control, useFieldArray, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import * as v from 'valibot';
import Plus from 'lucide-react-native/icons/plus';
import Trash from 'lucide-react-native/icons/trash';

import { plainSpot } from '@/core/record/zone';
import { plainTank } from '@/core/optics/tank';
import { lampLibrary } from '@/core/library/lamps';
import { useTyped } from '@/state/typed';
import { newId } from '@/state/id';
import { createCase, useSession } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { deviceTimeZone } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice, FieldRow } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Page } from '@/ui/Page';
import { Fold, Hairline, Note, Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { SheetCautions } from '../shared/Cautions';
import { useKeptForm } from '../shared/useKeptForm';
import { newCase } from '@/core/case/firstDay';
import { lights } from '@/state/lights';
import { type NeedChoice, NeedField } from '../shared/NeedField';
import { FormField } from '../case/FormField';
import { LampFields } from '../case/LampFields';
import { emptyLamp, formFromLamp, type LampForm, lampFormSchema, lampFromForm } from '../case/lampForm';

interface StartForm {
  name: string;
  length: string;
  width: string;
  depth: string;
  lamp: LampForm;
  lamps: string;
  height: string;
  spots: { id: string; name: string; x: string; y: string; depth: string; need: NeedChoice }[];
  /** the light they live under now */
  under: 'unknown' | 'thisLamp' | 'other';
  underPeak: string;
  underHours: string;
}

/** A number as text; without a unit a length in cm. */
const number = (low: number, high: number, unit?: string) =>
  v.pipe(
    v.string(),
    v.check((text) => parseNumber(text) !== null, 'Give a number.'),
    v.check(
      (text) => {
        const n = parseNumber(text);
        return n === null || (n >= low && n <= high);
      },
      () => `Give ${unit === undefined ? lengthRange(low, high) : `${low} to ${high}${unit}`}.`,
    ),
  );
const filled = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'Give it a name.'),
  v.maxLength(60, 'At most 60 letters.'),
);

const startSchema = v.pipe(
  v.object({
    name: filled,
    length: number(5, 1000),
    width: number(5, 1000),
    depth: number(5, 300),
    lamp: lampFormSchema,
    lamps: v.pipe(
      number(1, 12, ' lamps'),
      v.check((t) => Number.isInteger(parseNumber(t)), 'Give a whole number.'),
    ),
    height: number(1, 300),
    spots: v.pipe(
      v.array(
        v.object({
          id: v.string(),
          name: filled,
          x: number(0, 1000),
          y: number(0, 1000),
          depth: number(0, 300),
          need: v.picklist(['soft', 'largePolyp', 'smallPolyp', 'none']),
        }),
      ),
      v.minLength(1, 'Give at least one spot.'),
    ),
    under: v.picklist(['unknown', 'thisLamp', 'other']),
    underPeak: v.string(),
    underHours: v.string(),
  }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    const form = dataset.value;
    for (const [key, low, high, unit] of [
      ['underPeak', 1, 3000, ' µmol'],
      ['underHours', 0.5, 24, ' h'],
    ] as const) {
      const n = parseNumber(form[key]);
      if (form.under === 'other' && (n === null || n < low || n > high))
        addIssue({
          message: `Give ${low} to ${high}${unit}.`,
          path: [{ type: 'unknown', origin: 'value', input: form, key, value: null }],
        });
    }
    form.spots.forEach((s, i) => {
      for (const [key, limit] of [
        ['x', form.length],
        ['y', form.width],
        ['depth', form.depth],
      ] as const) {
        if (parseNumber(s[key])! > parseNumber(limit)!) {
          addIssue({
            message: `Lies outside the water: at most ${lengthWords(parseNumber(limit)!, true)}.`,
            path: ['spots', i, key].map((k) => ({
              type: 'unknown',
              origin: 'value',
              input: form,
              key: k,
              value: null,
            })) as unknown as [v.IssuePathItem],
          });
        }
      }
    });
  }),
);

const emptySpot = (name: string): StartForm['spots'][number] => ({
  id: newId(),
  name,
  x: '',
  y: '',
  depth: '',
  need: 'soft',
});
const empty = (): StartForm => ({
  name: 'My tank',
  length: '',
  width: '',
  depth: '',
  lamp: { ...emptyLamp(newId()), name: 'My lamp' },
  lamps: '1',
  height: '',
  spots: [emptySpot('First coral')],
  under: 'unknown',
  underPeak: '',
  underHours: '8',
});

/** Start my tank: five questions, then a first safe day. */
export function ExactStart() {
  const typed = useTyped('start');
  const [stands] = useState(empty);
  const form = useKeptForm<StartForm>(typed, stands, startSchema);
  const { control, handleSubmit, formState, setValue } = form;
  const values = useWatch({ control }) as StartForm;
  const { fields, append, remove } = useFieldArray({ control, name: 'spots', keyName: 'key' });

  const submit = handleSubmit(async (said) => {
    const n = (text: string) => parseNumber(text)!;
    const tank = plainTank(n(said.length), n(said.width), n(said.depth));
    const count = n(said.lamps);
    const bundle = await newCase({
      id: newId,
      lights,
      name: said.name.trim(),
      timeZone: deviceTimeZone(),
      tank,
      kind: lampFromForm(said.lamp, newId()),
      lamps: Array.from({ length: count }, (_, i) => ({
        id: newId(),
        name: count === 1 ? 'lamp' : count === 2 ? ['left', 'right'][i]! : `lamp ${i + 1}`,
        xCm: Math.round((tank.lengthCm * (i + 0.5) * 10) / count) / 10,
        yCm: tank.widthCm / 2,
        heightCm: n(said.height),
        turnDeg: 0,
      })),
      spots: said.spots.map((s) =>
        plainSpot({
          id: s.id,
          name: s.name.trim(),
          xCm: n(s.x),
          yCm: n(s.y),
          depthCm: n(s.depth),
          need: s.need === 'none' ? null : s.need,
          ...(said.under === 'other' && s.need !== 'none'
            ? { cameFrom: { peakUmol: n(said.underPeak), hours: n(said.underHours) } }
            : {}),
        }),
      ),
      usedTo: said.under === 'thisLamp',
    });
    const made = await createCase(bundle);
    setProblem(made.ok ? null : made.say);
    if (!made.ok) return;
    changeSettings({ caseId: bundle.case.id, zoneId: null, spotId: null, groupId: null, plateId: null });
    // the form is only forgotten once the case is safe
    if (useSession.getState().save.kind === 'saved') form.typed.clear();
    router.navigate('/day');
  });
  const [problem, setProblem] = useState<string | null>(null);
  const wrong = formState.isSubmitted && Object.keys(formState.errors).length > 0;

  return (
    <Page
      title="Start my tank"
      under="Field by field, then a first day that is safe for them. Everything can be changed later."
      testID="start"
    >
      <Section title="1 · The water">
        <FormField control={control} name="name" label="Name" testID="case-name" />
        <FieldRow>
          <FormField control={control} name="length" label="Length" unit="cm" numeric testID="tank-length" />
          <FormField control={control} name="width" label="Width" unit="cm" numeric testID="tank-width" />
          <FormField
            control={control}
            name="depth"
            label="Water depth"
            unit="cm"
            numeric
            testID="tank-depth"
          />
        </FieldRow>
      </Section>
      <Section title="2 · The lamp">
        <Fold title="Begin from a lamp of the library" testID="start-library">
          <Type kind="small">
            Invented lamps, typical of their kind: take the nearest and correct what differs.
          </Type>
          {lampLibrary().map(({ kind, about }) => (
            <Row
              key={kind.id}
              name={`Begin from ${kind.name}`}
              onPress={() => setValue('lamp', formFromLamp(kind), { shouldValidate: formState.isSubmitted })}
            >
              <View style={{ flex: 1 }}>
                <Type kind="label">{kind.name}</Type>
                <Type kind="small">{about}</Type>
              </View>
            </Row>
          ))}
        </Fold>
        <LampFields control={control as unknown as Control<{ lamp: LampForm }>} />
      </Section>
      <Section title="3 · Where it hangs">
        <FieldRow>
          <FormField
            control={control}
            name="lamps"
            label="How many, side by side"
            numeric
            testID="lamp-count"
          />
          <FormField
            control={control}
            name="height"
            label="Height over the water"
            unit="cm"
            numeric
            testID="lamp-height"
          />
        </FieldRow>
        <Note>
          Weight overhead: rated anchors and a second tether. Ceiling anchors follow local codes and go to
          licensed people.
        </Note>
      </Section>
      <Section title="4 · Spots">
        <Type kind="small">
          Where corals sit: from the left and front pane, and how deep under the surface.
        </Type>
        {fields.map((field, i) => (
          <View key={field.key} style={{ gap: space.s }}>
            <Hairline />
            <View style={{ flexDirection: 'row', alignItems: 'flex-end', gap: space.s }}>
              <FormField
                control={control}
                name={`spots.${i}.name`}
                label={`Spot ${i + 1}`}
                testID={`spot-${i}-name`}
              />
              <Button
                label="Remove"
                name={`Remove spot ${i + 1}`}
                icon={Trash}
                iconOnly
                kind="plain"
                disabled={fields.length < 2}
                onPress={() => remove(i)}
              />
            </View>
            <FieldRow>
              <FormField
                control={control}
                name={`spots.${i}.x`}
                label="From left"
                unit="cm"
                numeric
                testID={`spot-${i}-x`}
              />
              <FormField
                control={control}
                name={`spots.${i}.y`}
                label="From front"
                unit="cm"
                numeric
                testID={`spot-${i}-y`}
              />
              <FormField
                control={control}
                name={`spots.${i}.depth`}
                label="Depth"
                unit="cm"
                numeric
                testID={`spot-${i}-depth`}
              />
            </FieldRow>
            <Controller
              control={control}
              name={`spots.${i}.need`}
              render={({ field: need }) => <NeedField value={need.value} onChange={need.onChange} />}
            />
          </View>
        ))}
        <Button
          label="Add a spot"
          icon={Plus}
          onPress={() => append(emptySpot(`Coral ${fields.length + 1}`))}
        />
      </Section>
      <Section title="5 · What they live under now">
        <Controller
          control={control}
          name="under"
          render={({ field }) => (
            <Choice
              label="The light they are used to"
              value={field.value}
              onChange={field.onChange}
              options={[
                { value: 'unknown', label: 'New here, or not known' },
                { value: 'thisLamp', label: 'This very lamp' },
                { value: 'other', label: 'Another light' },
              ]}
            />
          )}
        />
        {values.under === 'unknown' && (
          <Type kind="small">
            The first day then begins at the least that their kind wants, for 8 hours (rule of thumb).
          </Type>
        )}
        {values.under === 'thisLamp' && (
          <Type kind="small">
            Set on Day what the lamp runs now; it is no step for them. What you change after that is judged by
            it.
          </Type>
        )}
        {values.under === 'other' && (
          <FieldRow>
            <FormField
              control={control}
              name="underPeak"
              label="At its brightest"
              unit="µmol"
              numeric
              testID="under-peak"
            />
            <FormField
              control={control}
              name="underHours"
              label="Hours a day"
              unit="h"
              numeric
              testID="under-hours"
            />
          </FieldRow>
        )}
      </Section>
      <SheetCautions />
      {problem !== null && (
        <Type kind="label" role="alert" testID="start-problem">
          {`▲ Not kept yet. ${problem}`}
        </Type>
      )}
      {wrong && (
        <Type kind="label" role="alert">
          ▲ Some fields need another look: they are marked above.
        </Type>
      )}
      <Button
        label="Show the first day"
        kind="filled"
        wide
        onPress={() => void submit()}
        disabled={formState.isSubmitting}
        testID="start-submit"
      />
      {form.typed.changed && (
        <Button label="Start over" kind="plain" onPress={form.typed.clear} testID="start-over" />
      )}
    </Page>
  );
}
