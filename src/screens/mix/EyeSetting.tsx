import { View } from 'react-native';

import { seeUnder } from '@/core/colour/look';
import { LookPlate } from '@/pieces/LookPlate';
import { changeSettings, useSettings } from '@/state/settings';
import { Button, Stepper } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { percent } from '@/core/shape/percent';

const STEP = 0.05;

/** How far the eye has adapted to the tank; the plates follow. */
export function EyeSetting({ light, onClose }: { light: Float64Array; onClose: () => void }) {
  const chosen = useSettings((s) => s.eyeDegree);
  const usual = seeUnder(light)?.degree ?? 0;
  const degree = chosen ?? usual;
  return (
    <Sheet title="The eye" onClose={onClose}>
      <Type>
        An eye fresh from daylight sees a blue tank very blue; after some minutes in a dark room it takes much
        of the tint for white. From this light’s brightness the usual degree here is {percent(usual)} (CAM16,
        dark room).
      </Type>
      <LookPlate
        light={light}
        width={320}
        height={100}
        eye={{ degree }}
        name="White card, sand and rock at this degree"
      />
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.l }}>
        <Type style={{ flex: 1 }}>{`Adapted ${percent(degree)}${chosen === null ? ', as usual' : ''}`}</Type>
        <Stepper
          name="Adaptation"
          atLow={degree <= 0}
          atHigh={degree >= 1}
          onStep={(sign) =>
            changeSettings({ eyeDegree: Math.min(1, Math.max(0, Math.round(degree / STEP + sign) * STEP)) })
          }
        />
      </View>
      <Button
        label="As usual"
        disabled={chosen === null}
        onPress={() => changeSettings({ eyeDegree: null })}
      />
    </Sheet>
  );
}
