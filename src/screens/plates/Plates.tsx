import { plural } from '@/core/shape/counts';
import { useState } from 'react';
import { View } from 'react-native';
import Upload from 'lucide-react-native/icons/upload';

import type { Plate } from '@/core/record/caseDoc';
import { problemLine } from '@/core/record/read';
import { mixSpectrum } from '@/core/spectrum/lamp';
import { Strip } from '@/pieces/Strip';
import { useDesk } from '@/state/desk';
import { importPlate } from '@/state/plates';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { pickText } from '@/ui/files';
import { usePageKeys } from '@/ui/keys';
import { Page, usePageSize } from '@/ui/Page';
import { Row } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { Glimpse } from '../shared/Look';
import { useUnder } from '../shared/useUnder';
import { PlateDetail } from '../sheets';

const LARGEST_FILE = 5_000_000;
/** Width of the tank under a plate, px: by it a plate is known. */
const SMALL = 132;
const FIND = 'plates-find';

/** All plates of the case: find, order, versions, files; plates of lamps that do not hang here can be taken over. */
export function Plates() {
  const desk = useDesk();
  const { doc, zone } = desk;
  const seen = useUnder(desk);
  const page = usePageSize();
  const [find, setFind] = useState('');
  const [open, setOpen] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const words = find.trim().toLowerCase();
  const kindOf = (p: Plate) => doc.lampKinds.find((k) => k.id === p.lampKindId)!;
  const shown = doc.plates.filter((p) =>
    [p.name, p.notes, kindOf(p).name].some((t) => t.toLowerCase().includes(words)),
  );
  const opened = doc.plates.find((p) => p.id === open);
  usePageKeys((press) => {
    if (press.key !== '/' || press.typing) return;
    press.preventDefault();
    document.querySelector<HTMLInputElement>(`[data-testid="${FIND}"]`)?.focus();
  });
  const uses = (p: Plate) =>
    doc.zones
      .flatMap((z) => z.groups.flatMap((g) => g.threads))
      .filter((t) => 'plateId' in t.mix && t.mix.plateId === p.id).length;
  const take = async () => {
    const file = await pickText(['application/json', '.json'], LARGEST_FILE);
    if (!file) return;
    const not = (why: string) => setSaid(`Not taken in. ${why} Nothing was changed.`);
    if ('problem' in file) return not(file.problem);
    const read = importPlate(doc, file.text);
    if (!read.ok) return not(`${problemLine(read.problem)}. ${read.problem.remedy}`);
    const { name, foreign, plateId } = read.value;
    setSaid(
      foreign
        ? `${name} was taken in. It was made for a lamp that does not hang here: take it over to yours.`
        : `${name} was taken in.`,
    );
    if (foreign) setOpen(plateId);
  };
  return (
    <Page
      testID="plates"
      title="Plates"
      under={`${plural(doc.plates.length, 'plate')} in this case`}
      sentence={
        <Type quiet>
          A plate is a saved mix of one lamp. Days point at plates; a changed plate changes their threads.
        </Type>
      }
    >
      <View style={{ flexDirection: 'row', gap: space.m, alignItems: 'flex-end' }}>
        <TextField
          label="Find"
          value={find}
          onChange={setFind}
          testID={FIND}
          hint="By name, note or lamp; / on a keyboard."
        />
      </View>
      <View>
        {shown.map((p) => {
          const kind = kindOf(p);
          const here = zone.groups.some((g) => g.lampKindId === kind.id);
          const n = uses(p);
          const under = kind.id === desk.lampKind?.id ? seen(p.mix) : null;
          return (
            <Row
              key={p.id}
              onPress={() => setOpen(p.id)}
              name={`Open plate ${p.name}`}
              style={{ alignItems: 'stretch', gap: space.m }}
            >
              {under && <Glimpse {...under} width={SMALL} name={`The tank under ${p.name}`} />}
              <View style={{ flex: 1, gap: 4 }}>
                <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: space.m }}>
                  <Type kind="label" style={{ flexShrink: 1 }}>
                    {p.name}
                  </Type>
                  <Type kind="small">
                    {!here ? 'other lamp' : n === 0 ? 'not in a day' : plural(n, 'thread')}
                  </Type>
                </View>
                <Strip
                  spectrum={mixSpectrum(kind, p.mix)}
                  width={Math.min(page.main, 420) - (under ? SMALL + space.m : 0)}
                  height={12}
                  name={`Spectrum of ${p.name}`}
                />
                <Type kind="small" numberOfLines={2}>
                  {[kind.name, p.versions.length > 0 ? plural(p.versions.length, 'version') : null, p.notes]
                    .filter(Boolean)
                    .join(' · ')}
                </Type>
              </View>
            </Row>
          );
        })}
        {shown.length === 0 && (
          <Type>
            {doc.plates.length === 0
              ? 'No plate yet. A lamp that is hung brings its first one; more are made on Mix.'
              : `No plate has “${find.trim()}” in its name, notes or lamp.`}
          </Type>
        )}
      </View>
      {said && (
        <Type kind="label" role="alert" testID="plates-message">
          {said}
        </Type>
      )}
      <Button label="Plate from a file" icon={Upload} onPress={() => void take()} testID="import-plate" />
      {opened && <PlateDetail key={opened.id} doc={doc} plate={opened} onClose={() => setOpen(null)} />}
    </Page>
  );
}
