import { useState } from 'react';
import { Pressable, View } from 'react-native';
import FileUp from 'lucide-react-native/icons/file-up';

import type { CaseDoc } from '@/core/record/caseDoc';
import { sharedPhotons } from '@/core/mix/shape';
import { Strip } from '@/pieces/Strip';
import { addReference, removeReference } from '@/state/commands/plates';
import { newId } from '@/state/id';
import { run } from '@/state/session';
import { changeSettings, useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { font, space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { pickSpectrum } from '../shared/spectrumFiles';
import { percent } from '@/core/shape/percent';
import { otherLight, otherLights } from './behind';

/** What is laid behind the comb: nothing, a generic light, a plate, or a spectrum from a file. */
export function BehindSheet({ doc, sum, onClose }: { doc: CaseDoc; sum: Float64Array; onClose: () => void }) {
  const chosen = useSettings((s) => s.behind);
  const [problem, setProblem] = useState<string | null>(null);
  const all = otherLights(doc);
  const groups = [...new Set(all.map((l) => l.group))];
  const pick = async () => {
    const picked = await pickSpectrum();
    if (!picked) return;
    if ('problem' in picked) return setProblem(picked.problem);
    setProblem(null);
    const id = newId();
    const { points, quantity, description } = picked.spectrum;
    const name = (description || picked.fileName.replace(/\.[^.]+$/, '')).slice(0, 80);
    if (run(addReference({ id, name, points, quantity }))) changeSettings({ behind: `own:${id}` });
  };
  const row = (key: string | null, name: string) => {
    const light = otherLight(doc, key);
    const shared = light ? sharedPhotons(sum, light.spectrum) : null;
    return (
      <Pressable
        key={key ?? 'none'}
        role="radio"
        aria-checked={chosen === key}
        aria-label={name}
        onPress={() => changeSettings({ behind: key })}
        style={{ gap: 4, paddingVertical: space.s, minHeight: 44 }}
      >
        <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: space.m }}>
          <Type kind="label" style={[{ flex: 1 }, chosen === key ? { fontFamily: font.bold } : undefined]}>
            {`${chosen === key ? '● ' : '○ '}${name}`}
          </Type>
          {shared !== null && <Type kind="small">{`${percent(shared)} of photons in common`}</Type>}
        </View>
        {light && <Strip spectrum={light.spectrum} width={320} height={10} name={`Spectrum of ${name}`} />}
      </Pressable>
    );
  };
  return (
    <Sheet title="Behind the comb" onClose={onClose}>
      <Type kind="small">
        The outline behind is scaled to the same PAR, so that only the shape is compared. In common: the share
        of PAR photons that both lights have at the same wavelengths.
      </Type>
      <View role="radiogroup" aria-label="Light behind the comb">
        {row(null, 'Nothing')}
        {groups.map((group) => (
          <View key={group}>
            <Type kind="small" style={{ paddingTop: space.s }}>
              {group}
            </Type>
            {all.filter((l) => l.group === group).map((l) => row(l.key, l.name))}
          </View>
        ))}
      </View>
      {problem && (
        <Type kind="label" role="alert" testID="behind-problem">
          {`▲ ${problem}`}
        </Type>
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="A spectrum from a file"
          icon={FileUp}
          onPress={() => void pick()}
          name="Lay a spectrum from a file behind: CSV or IES TM-27"
        />
        {chosen?.startsWith('own:') && (
          <Button
            label="Remove this one"
            onPress={() => {
              run(removeReference(chosen.slice(4)));
              changeSettings({ behind: null });
            }}
          />
        )}
      </View>
    </Sheet>
  );
}
