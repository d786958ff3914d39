import { useState } from 'react';

import { exportText } from '@/core/record/caseFile';
import { waterAlone } from '@/core/record/given';
import type { Desk } from '@/state/desk';
import { Button } from '@/ui/Button';

import { GiveSheet } from '../sheets';

/** The water that is looked at, given along as a link. */
export function GiveWater({ desk: { doc, zone } }: { desk: Desk }) {
  const [text, setText] = useState<string | null>(null);
  return (
    <>
      <Button
        label="Water as a link"
        name={`${zone.name} as a link`}
        onPress={() => setText(exportText(waterAlone(doc, zone, `given-${zone.id}`)))}
        testID="water-link"
      />
      {text !== null && (
        <GiveSheet given={{ letter: 't', text }} name={zone.name} onClose={() => setText(null)} />
      )}
    </>
  );
}
