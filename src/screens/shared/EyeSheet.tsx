import Download from 'lucide-react-native/icons/download';
import { useState } from 'react';
import { View } from 'react-native';

import { CAMERA_TO_K } from '@/core/mix/photograph';
import { percent } from '@/core/shape/percent';
import { changeSettings, useSettings } from '@/state/settings';
import { Button, Stepper } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { Fold, Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { BRIGHTNESS, EYES } from './eyeWords';

const STEP = 0.05;

/** Who looks at the tank, and how bright it is drawn; all pictures follow. */
export function EyeSheet({
  usualDegree,
  words,
  onPicture,
  onClose,
}: {
  usualDegree: number;
  /** what is seen, a sentence for each coral */
  words: string;
  /** offers the picture as a file; false where that cannot be */
  onPicture: () => Promise<boolean>;
  onClose: () => void;
}) {
  const [failed, setFailed] = useState(false);
  const { look, eyeDegree, fish } = useSettings((s) => s);
  const choose = (change: Partial<typeof look>) => changeSettings({ look: { ...look, ...change } });
  const degree = eyeDegree ?? usualDegree;
  return (
    <Sheet title="Whose eye" onClose={onClose}>
      <Choice
        label="Who looks"
        value={look.eye}
        onChange={(eye) => choose({ eye })}
        options={(['adapted', 'fresh', 'camera'] as const).map((value) => ({ value, label: EYES[value] }))}
      />
      <Type kind="small">
        {look.eye === 'camera'
          ? `A phone’s camera whose white balance stands at ${CAMERA_TO_K} K, the coldest that most can set (rule of thumb): what it cannot balance stays blue and clips.`
          : look.eye === 'fresh'
            ? 'Just come in from daylight: a blue tank looks very blue.'
            : `After some minutes in a dark room the eye takes part of a light’s tint for white: of this light ${percent(usualDegree)} (CAM16).`}
      </Type>
      {look.eye === 'adapted' && (
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m, flexWrap: 'wrap' }}>
          <Type
            style={{ flex: 1 }}
          >{`Adapted ${percent(degree)}${eyeDegree === null ? ', as usual' : ''}`}</Type>
          <Stepper
            name="Adaptation"
            atLow={degree <= 0}
            atHigh={degree >= 1}
            onStep={(sign) =>
              changeSettings({
                eyeDegree: Math.min(1, Math.max(0, Math.round(degree / STEP + sign) * STEP)),
              })
            }
          />
          <Button
            label="As usual"
            disabled={eyeDegree === null}
            onPress={() => changeSettings({ eyeDegree: null })}
          />
        </View>
      )}
      <Choice
        label="Brightness"
        value={look.brightness}
        onChange={(brightness) => choose({ brightness })}
        options={(['real', 'evened'] as const).map((value) => ({ value, label: BRIGHTNESS[value] }))}
      />
      <Choice
        label="In the tank"
        value={look.card ? 'card' : 'none'}
        onChange={(v) => choose({ card: v === 'card' })}
        options={[
          { value: 'none', label: 'no white card' },
          { value: 'card', label: 'a white card on the sand' },
        ]}
      />
      <Choice
        label="Fish in pictures and advice"
        value={fish ? 'yes' : 'no'}
        onChange={(v) => changeSettings({ fish: v === 'yes' })}
        options={[
          { value: 'yes', label: 'with fish' },
          { value: 'no', label: 'corals alone' },
        ]}
      />
      {words !== '' && (
        <Fold title="What is seen, in words" testID="seen-words">
          <Type kind="small">{`${words}.`}</Type>
        </Fold>
      )}
      <Button
        label="Keep this picture (PNG)"
        icon={Download}
        onPress={() => void onPicture().then((done) => setFailed(!done))}
        testID="keep-picture"
      />
      {failed && <Note>Nothing is drawn here that could be kept.</Note>}
    </Sheet>
  );
}
