import { plural } from '@/core/shape/counts';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import Plus from 'lucide-react-native/icons/plus';

import { lampLibrary } from '@/core/library/lamps';
import { problemLine } from '@/core/record/read';
import { par } from '@/core/spectrum/bands';
import { allFull } from '@/core/spectrum/controls';
import { fullWallWatts } from '@/core/spectrum/watts';
import { mixSpectrum } from '@/core/spectrum/lamp';
import type { LampKind } from '@/core/spectrum/lampKind';
import { Strip } from '@/pieces/Strip';
import { setLampKind } from '@/state/commands/lamps';
import { useDesk } from '@/state/desk';
import { run } from '@/state/session';
import { importLamp } from '@/state/lampFiles';
import { pickText } from '@/ui/files';
import { Button } from '@/ui/Button';
import { Page, usePageSize } from '@/ui/Page';
import { Row, Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { CensusSheet, LampKindSheet, NewGroupSheet } from '../sheets';
import type { LampForm } from '../case/lampForm';
import { watts } from '../shared/words';
import { LampDetail, money } from './LampDetail';

const LARGEST_FILE = 5_000_000;

/** The lamps one can know: those of the library and one's own. Any can be hung, compared, or begun from. */
export function Lamps() {
  const { doc, zone } = useDesk();
  const [open, setOpen] = useState<LampKind | null>(null);
  const [editing, setEditing] = useState<LampKind | null>(null);
  const [adding, setAdding] = useState<LampForm | 'empty' | null>(null);
  const [counting, setCounting] = useState(false);
  const [said, setSaid] = useState('');
  const take = async () => {
    const file = await pickText(['application/json', '.json'], LARGEST_FILE);
    if (!file) return;
    const not = (why: string) => setSaid(`Not taken in. ${why} Nothing was changed.`);
    if ('problem' in file) return not(file.problem);
    const read = importLamp(doc, file.text);
    if (!read.ok) return not(`${problemLine(read.problem)}. ${read.problem.remedy}`);
    const { kind, known } = read.value;
    setSaid(
      known ? `${kind.name} is in this case already.` : `${kind.name} was taken in; it hangs nowhere yet.`,
    );
    setOpen(kind);
  };
  return (
    <Page
      testID="lamps"
      title="Lamps"
      under={`${lampLibrary().length} in the library, ${doc.lampKinds.length} in this case`}
      sentence={
        <Type quiet>
          The library is invented: lamps of every kind to plan with. Figures are typical of the kind and
          prices made up.
        </Type>
      }
    >
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="Type in a lamp"
          icon={Plus}
          kind="filled"
          onPress={() => setAdding('empty')}
          testID="type-lamp"
        />
        <Button label="Count an unknown one" onPress={() => setCounting(true)} testID="census" />
        <Button label="From a file" onPress={() => void take()} testID="lamp-from-file" />
        <Button label="Compare" onPress={() => router.navigate('/compare' as never)} />
        <Button
          label="Choose for this tank"
          onPress={() => router.navigate('/choose' as never)}
          testID="to-choose"
        />
        <Button label="Hang the lamps" onPress={() => router.navigate('/hang' as never)} testID="to-hang" />
        <Button label="Swap a lamp" onPress={() => router.navigate('/swap' as never)} testID="to-swap" />
      </View>
      {said !== '' && (
        <Type role="status" testID="lamps-message">
          {said}
        </Type>
      )}
      <Section title="In this case">
        {doc.lampKinds.length === 0 && <Type quiet>None yet.</Type>}
        <View>
          {doc.lampKinds.map((k) => (
            <LampRow
              key={k.id}
              kind={k}
              about={
                zone.groups.some((g) => g.lampKindId === k.id)
                  ? 'Hangs over this water.'
                  : 'Not over any of your waters; kept because plates use it.'
              }
              onPress={() => setOpen(k)}
            />
          ))}
        </View>
      </Section>
      <Section title="Library">
        <View>
          {lampLibrary().map(({ kind, about }) => (
            <LampRow key={kind.id} kind={kind} about={about} onPress={() => setOpen(kind)} />
          ))}
        </View>
      </Section>
      {open && (
        <LampDetail
          kind={open}
          onEdit={() => {
            setEditing(open);
            setOpen(null);
          }}
          onClose={() => setOpen(null)}
        />
      )}
      {editing && (
        <LampKindSheet
          kind={editing}
          onSave={(changed) => run(setLampKind(changed))}
          onClose={() => setEditing(null)}
        />
      )}
      {counting && (
        <CensusSheet
          onDone={(form) => {
            setCounting(false);
            setAdding(form);
          }}
          onClose={() => setCounting(false)}
        />
      )}
      {adding && (
        <NewGroupSheet
          zone={zone}
          initial={adding === 'empty' ? undefined : adding}
          onClose={() => setAdding(null)}
        />
      )}
    </Page>
  );
}

function LampRow({ kind, about, onPress }: { kind: LampKind; about: string; onPress: () => void }) {
  const full = mixSpectrum(kind, allFull(kind));
  const { main } = usePageSize();
  return (
    <Row onPress={onPress} name={`Open ${kind.name}`}>
      <View style={{ flex: 1, gap: 4 }}>
        <Type kind="label">{kind.name}</Type>
        <Strip
          spectrum={full}
          width={Math.min(main, 420)}
          height={12}
          name={`Spectrum of ${kind.name}, everything full`}
        />
        <Type kind="small">{about}</Type>
        <Type kind="small">
          {[
            plural(kind.channels.length, 'channel'),
            watts(fullWallWatts(kind)),
            `${Math.round(par(full))} µmol/s`,
            money(kind.price),
          ]
            .filter(Boolean)
            .join(' · ')}
        </Type>
      </View>
    </Row>
  );
}
