import { lengthRange } from '@/core/shape/units';
import { useState } from 'react';
import { type Control, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import * as v from 'valibot';

import type { Zone } from '@/core/record/zone';
import { problemWords } from '@/core/formats/table';
import { formats } from '../shared/formats';
import type { LampKind, Photometry } from '@/core/spectrum/lampKind';
import { newPlate } from '@/core/case/plate';
import { addGroup, addLampKind } from '@/state/commands/lamps';
import { useDesk } from '@/state/desk';
import { useTyped } from '@/state/typed';
import { newId } from '@/state/id';
import { lights } from '@/state/lights';
import { run, runIn } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { pickText } from '@/ui/files';
import { parseNumber } from '@/ui/parseNumber';
import { Note, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { addedLamp, firstMix } from '@/core/case/firstDay';
import { useKeptForm } from '../shared/useKeptForm';
import { longWords } from '../shared/words';
import { FormField } from './FormField';
import { LampFields } from './LampFields';
import { emptyLamp, formFromLamp, type LampForm, lampFormSchema, lampFromForm } from './lampForm';

/** Edits a lamp kind. */
export function LampKindSheet({
  kind,
  onSave,
  onClose,
}: {
  kind: LampKind;
  onSave: (kind: LampKind) => void;
  onClose: () => void;
}) {
  const typed = useTyped(`lamp kind ${kind.id}`);
  const [stands] = useState(() => ({ lamp: formFromLamp(kind) }));
  const form = useKeptForm<{ lamp: LampForm }>(typed, stands, v.object({ lamp: lampFormSchema }));
  const { control, handleSubmit } = form;
  const [optic, setOptic] = useState<Photometry | null>(kind.optic ?? null);
  const diffuser = useTyped(`diffuser of ${kind.id}`);
  const [matt, setMatt] = diffuser.of('matt', String(Math.round((kind.diffuserShare ?? 0) * 100)));
  const [problem, setProblem] = useState<string | null>(null);
  const share = parseNumber(matt);
  const mattError = share === null || share < 0 || share > 100 ? 'Give 0 to 100 %.' : undefined;
  const submit = handleSubmit(({ lamp }) => {
    if (mattError) return;
    onSave(lampFromForm(lamp, kind.id, { ...kind, optic, diffuserShare: (share ?? 0) / 100 }));
    form.typed.clear();
    diffuser.clear();
    onClose();
  });
  const readOptic = async () => {
    setProblem(null);
    const file = await pickText(['.ies', '.txt', 'text/plain', 'application/octet-stream'], 2_000_000);
    if (!file) return;
    const not = (why: string) => setProblem(`${file.name} was not taken: ${why}`);
    if ('problem' in file) return not(file.problem);
    const read = (await formats()).parseIes(file.text);
    if (read.ok) setOptic(read.value);
    else not(problemWords(read.error));
  };
  return (
    <Sheet title={kind.name} onClose={onClose} typed={form.typed}>
      <LampFields control={control} />
      <Section title="Optic">
        <Type testID="optic">
          {optic
            ? `Light is thrown as in “${optic.name}” (${optic.verticalDeg.length} × ${optic.horizontalDeg.length} angles, shape alone); beam angles stand aside.`
            : 'Light is thrown by beam angle. A photometric file (LM-63, type C) says it better.'}
        </Type>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
          <Button label="Read a photometric file" onPress={() => void readOptic()} testID="read-optic" />
          {optic && <Button label="Use beam angles" onPress={() => setOptic(null)} />}
        </View>
        {problem && (
          <Type kind="label" role="alert" testID="optic-problem">
            {`▲ ${problem}`}
          </Type>
        )}
        <TextField
          label="Light that a diffuser makes matt"
          value={matt}
          onChange={setMatt}
          unit="%"
          numeric
          error={mattError}
          hint="0 = none. A full sheet keeps back about 12 % as well (rule of thumb)."
          testID="diffuser"
        />
      </Section>
      <Button
        label="Keep these changes"
        kind="filled"
        wide
        onPress={() => void submit()}
        testID="save-lamp"
      />
    </Sheet>
  );
}

const groupSchema = v.object({
  lamp: lampFormSchema,
  group: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, 'Give it a name.'),
    v.maxLength(60, 'At most 60 letters.'),
  ),
  height: v.pipe(
    v.string(),
    v.check(
      (text) => {
        const n = parseNumber(text);
        return n !== null && n >= 1 && n <= 300;
      },
      () => `Give ${lengthRange(1, 300)}.`,
    ),
  ),
});
interface GroupForm {
  lamp: LampForm;
  group: string;
  height: string;
}

/** Hangs lamps of another kind: a group with its own day, dark until its cap is raised. */
export function NewGroupSheet({
  zone,
  initial,
  onClose,
}: {
  zone: Zone;
  /** a lamp to begin from, such as a census */
  initial?: LampForm;
  onClose: () => void;
}) {
  const typed = useTyped(`lamps more over ${zone.id}`);
  const [stands] = useState(() => ({
    lamp: emptyLamp(newId()),
    group: `Lamps ${zone.groups.length + 1}`,
    height: '20',
  }));
  const form = useKeptForm<GroupForm>(typed, stands, groupSchema, initial && { ...stands, lamp: initial });
  const { control, handleSubmit } = form;
  const kept = () => {
    typed.clear();
    onClose();
  };
  const { bundle } = useDesk();
  const [hanging, setHanging] = useState(false);
  const face = parseNumber(useWatch({ control, name: 'lamp.faceLength' }));
  const submit = handleSubmit(async (form) => {
    const kind = lampFromForm(form.lamp, newId());
    setHanging(true);
    const { group, plate } = await addedLamp({
      ...{ bundle, zone, kind, lights, name: form.group.trim(), lampName: kind.name.toLowerCase() },
      heightCm: parseNumber(form.height)!,
      id: newId,
    }).finally(() => setHanging(false));
    if (runIn(bundle.case.id, addGroup(zone.id, kind, plate, group))) {
      changeSettings({ groupId: group.id, plateId: plate.id });
      kept();
    }
  });
  // kept for its plates and for comparing, hung nowhere
  const keep = handleSubmit((form) => {
    const kind = lampFromForm(form.lamp, newId());
    if (run(addLampKind(kind, newPlate(newId(), 'First light', kind.id, firstMix(kind))))) kept();
  });
  return (
    <Sheet title="Add a lamp" onClose={onClose} typed={form.typed}>
      <FormField control={control} name="group" label="Name of the group" testID="group-name" />
      <FormField
        control={control}
        name="height"
        label="Height over the water"
        unit="cm"
        numeric
        testID="group-height"
      />
      <LampFields control={control as unknown as Control<{ lamp: LampForm }>} />
      {face !== null && face > zone.tank.lengthCm && <Note>{longWords(face, zone.tank.lengthCm)}</Note>}
      <Type kind="small">
        Hung, it starts as a draft at little light, where there is room over the tank; the sheet says what is
        safe beside the lamps that run.
      </Type>
      <Button
        label={hanging ? 'Finding a safe first light …' : 'Hang it'}
        kind="filled"
        wide
        disabled={hanging}
        onPress={() => void submit()}
        testID="save-group"
      />
      <Button
        label="Keep it without hanging it"
        wide
        disabled={hanging}
        onPress={() => void keep()}
        testID="keep-kind"
      />
    </Sheet>
  );
}
