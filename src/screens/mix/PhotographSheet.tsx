import { useQuery } from '@tanstack/react-query';
import { View } from 'react-native';

import { newPlate } from '@/core/case/plate';
import { CAMERA_DUV, CAMERA_FROM_K, CAMERA_TO_K } from '@/core/mix/photograph';
import { lightDifference } from '@/core/mix/versions';
import { transmission } from '@/core/optics/water';
import { addPlate } from '@/state/commands/plates';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { photographQuery } from '@/state/solvers';
import { run } from '@/state/session';
import { changeSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Note } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Glimpse } from '../shared/Look';
import { useUnder } from '../shared/useUnder';
import { madeFrom } from '../shared/words';
import { lockedValues } from './view';

/** A plate for photographs: whitest within what a phone can balance, at the least change of PAR. */
export function PhotographSheet({ onClose }: { onClose: () => void }) {
  const desk = useDesk();
  const { plate, lampKind, zone, spot } = desk;
  const seen = useUnder(desk);
  const through = transmission(zone.water, spot?.depthCm ?? zone.tank.depthCm / 2);
  const found = useQuery(photographQuery(lampKind!, plate!.mix, through, lockedValues(plate!)));
  if (!plate || !lampKind) return null;
  const result = found.data;
  const keep = () => {
    const id = newId();
    const made = newPlate(
      id,
      madeFrom('Photographs', plate.name),
      lampKind.id,
      result!.mix,
      'For taking pictures only: go back to the everyday mix afterwards.',
    );
    if (run(addPlate(made, plate.id))) {
      changeSettings({ plateId: id });
      onClose();
    }
  };
  return (
    <Sheet title="For photographs" onClose={onClose}>
      <Type kind="small">
        {`A phone can white-balance light between about ${CAMERA_FROM_K} and ${CAMERA_TO_K} K within ${CAMERA_DUV} of the white line (rule of thumb). This looks for such a mix at ${spot?.name ?? 'mid-water'} with the least change of PAR, then the least change at all.`}
      </Type>
      {found.error ? (
        <Note>{`Not found: ${found.error.message}.`}</Note>
      ) : found.isPending ? (
        <Type role="status">Looking …</Type>
      ) : result === null || result === undefined ? (
        <Note>
          This lamp cannot get there: with its colours no mix lies within the camera’s range, or locked
          channels keep it out. A filter over the lens or a separate white lamp for the picture does it.
        </Note>
      ) : (
        <>
          <View style={{ gap: space.s }}>
            {[
              { mix: plate.mix, name: plate.name },
              { mix: result.mix, name: 'the photograph mix' },
            ].map(({ mix, name }) => (
              <View key={name} style={{ gap: 2 }}>
                {seen(mix) && (
                  <Glimpse
                    {...seen(mix)!}
                    eye="camera"
                    brightness="evened"
                    width={320}
                    name={`Through a camera, under ${name}`}
                  />
                )}
                <Type kind="small">{`Through a phone’s camera, under ${name}`}</Type>
              </View>
            ))}
          </View>
          <Type testID="photograph">{`${Math.round(result.cctK / 100) * 100} K, PAR × ${result.parRatio.toFixed(2)} at the coral.`}</Type>
          {result.parRatio < 0.95 && (
            <Type kind="small">
              The whites of this lamp carry no more. For the minutes of a picture the corals get less light;
              the day hardly notices.
            </Type>
          )}
          <Type kind="small">{`Against ${plate.name}: ${lightDifference(lampKind, plate.mix, result.mix).join(', ') || 'no difference'}.`}</Type>
          <Button label="Keep as a plate" kind="filled" wide onPress={keep} testID="keep-photograph" />
          <Note>
            Use it for minutes, then go back: a photograph mix left on is a change of light like any other.
          </Note>
        </>
      )}
    </Sheet>
  );
}
