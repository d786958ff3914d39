import { valibotResolver } from '@hookform/resolvers/valibot';
import { type Control, useForm } from 'react-hook-form';
import * as v from 'valibot';

import type { HungLamp, Zone } from '@/core/case/types';
import type { LampKind } from '@/core/spectrum/lamp';
import { addGroup } from '@/state/commands';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { parseNumber } from '@/ui/parseNumber';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { firstGroup } from './firstDay';
import { FormField, LampFields } from './LampFields';
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
  const { control, handleSubmit } = useForm<{ lamp: LampForm }>({
    defaultValues: { lamp: formFromLamp(kind) },
    resolver: valibotResolver(v.object({ lamp: lampFormSchema })) as never,
    mode: 'onTouched',
  });
  const submit = handleSubmit(({ lamp }) => {
    onSave(lampFromForm(lamp, kind.id, kind));
    onClose();
  });
  return (
    <Sheet title={kind.name} onClose={onClose}>
      <LampFields control={control} />
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
    v.check((text) => {
      const n = parseNumber(text);
      return n !== null && n >= 1 && n <= 300;
    }, 'Give 1 to 300 cm.'),
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
  const { control, handleSubmit } = useForm<GroupForm>({
    defaultValues: {
      lamp: initial ?? emptyLamp(newId()),
      group: `Lamps ${zone.groups.length + 1}`,
      height: '20',
    },
    resolver: valibotResolver(groupSchema) as never,
    mode: 'onTouched',
  });
  const submit = handleSubmit((form) => {
    const kind = lampFromForm(form.lamp, newId());
    const lamp: HungLamp = {
      id: newId(),
      name: kind.name.toLowerCase(),
      xCm: zone.tank.lengthCm / 2,
      yCm: zone.tank.widthCm / 2,
      heightCm: parseNumber(form.height)!,
      turnDeg: 0,
    };
    const { group, plate } = firstGroup(kind, [lamp], form.group.trim(), newId);
    // an added lamp starts low: its light comes on top of what the corals have
    if (run(addGroup(zone.id, kind, plate, { ...group, capShare: ADDED_CAP }))) {
      changeSettings({ groupId: group.id, plateId: plate.id });
      onClose();
    }
  });
  return (
    <Sheet title="Add other lamps" onClose={onClose}>
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
      <Type kind="small">{`It starts as a draft with its cap at ${ADDED_CAP * 100} %: the sheet says what is safe beside the lamps that run.`}</Type>
      <Button label="Hang it" kind="filled" wide onPress={() => void submit()} testID="save-group" />
    </Sheet>
  );
}

const ADDED_CAP = 0.1;
