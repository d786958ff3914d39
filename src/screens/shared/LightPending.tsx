import { router } from 'expo-router';
import { View } from 'react-native';

import { Button } from '@/ui/Button';
import { Note } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

/** In place of light that is not there: no spot yet, still computing, or an error with its remedy. */
export function LightPending({
  error,
  noSpot,
  height,
}: {
  error: string | null;
  noSpot: boolean;
  height: number;
}) {
  return (
    <View style={{ minHeight: noSpot ? 0 : height, justifyContent: 'center', gap: space.m }}>
      {error ? (
        <Note>{`The light could not be computed: ${error}. Reload the page; nothing is lost.`}</Note>
      ) : noSpot ? (
        <>
          <Type>No spot yet: light is always spoken of at a place in the water.</Type>
          <Button label="Add a spot" onPress={() => router.navigate('/case')} />
        </>
      ) : (
        <Type quiet role="status">
          Computing the light …
        </Type>
      )}
    </View>
  );
}
