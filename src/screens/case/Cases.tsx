import { useQueryClient } from '@tanstack/react-query';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import Download from 'lucide-react-native/icons/download';
import Plus from 'lucide-react-native/icons/plus';
import Upload from 'lucide-react-native/icons/upload';

import { type BackedUp, partOpenCase } from '@/state/backup';
import { deleteOpenCase, exportOpenCase, openDemo, switchCase } from '@/state/boot';
import { renameCase } from '@/state/commands/waters';
import { useDesk } from '@/state/desk';
import { importFile } from '@/state/importing';
import { savedText, useCases } from '@/state/library';
import { run } from '@/state/session';
import { Button } from '@/ui/Button';
import { ValueField } from '@/ui/Field';
import { download, pickText } from '@/ui/files';
import { Row, Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { GiveWater } from '../given/GiveWater';
import { Restore } from './Backup';

const LARGEST_FILE = 50_000_000;

/** The cases of this browser: named, opened, given out, taken in, deleted. */
export function Cases() {
  const desk = useDesk();
  const { doc } = desk;
  const cases = useCases();
  const client = useQueryClient();
  const [message, setMessage] = useState<string | null>(null);
  const [reading, setReading] = useState<AbortController | null>(null);
  const [deleting, setDeleting] = useState(false);
  const refresh = () => client.invalidateQueries({ queryKey: ['library'] });
  const [asks, setAsks] = useState<BackedUp | null>(null);
  const giveOut = (states: readonly string[]) => {
    const file = exportOpenCase(states);
    if (file) download(file.name, file.text);
  };
  const importIt = async () => {
    const file = await pickText(['application/json', '.json', 'text/plain', '.txt'], LARGEST_FILE);
    if (!file) return;
    if ('problem' in file)
      return setMessage(`${file.name} was not imported. ${file.problem} Nothing was changed.`);
    const halt = new AbortController();
    setReading(halt);
    const done = await importFile(file.text, { signal: halt.signal });
    setMessage(done.say || null);
    setAsks(done.asks ?? null);
    setReading(null);
    await refresh();
  };
  return (
    <Section title="Files">
      <ValueField
        label="Name of this case"
        value={doc.name}
        onCommit={(text) =>
          text.trim() === '' ? 'Give it a name.' : run(renameCase(text.trim())) ? null : 'Not taken.'
        }
      />
      <View>
        {(cases.data ?? []).map((c) => (
          <Row
            key={c.id}
            name={c.id === doc.id ? `${c.name}, open` : `Open ${c.name}`}
            onPress={
              c.id === doc.id || c.newer
                ? undefined
                : async () => {
                    setMessage(await switchCase(c.id));
                    await refresh();
                  }
            }
          >
            <Type kind="label" style={{ flex: 1 }}>
              {c.name}
            </Type>
            <Type kind="small">
              {[
                c.id === doc.id ? 'open' : c.newer ? 'of a newer Chromatheca, untouched' : null,
                c.demo ? 'demo' : null,
              ]
                .filter(Boolean)
                .join(', ')}
            </Type>
            {c.newer && (
              <Button
                label="Download"
                kind="plain"
                onPress={async () => download(`${c.id}.json`, (await savedText(`case/${c.id}`)) ?? '')}
              />
            )}
          </Row>
        ))}
      </View>
      {reading && (
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: space.m }}>
          <Type kind="small" role="status" style={{ flex: 1 }}>
            Reading the file
          </Type>
          <Button label="Stop" onPress={() => reading.abort()} testID="import-stop" />
        </View>
      )}
      {message && (
        <Type kind="label" role="alert" testID="case-message">
          {message}
        </Type>
      )}
      <View style={{ gap: space.s, flexDirection: 'row', flexWrap: 'wrap' }}>
        <Button label="Start my tank" icon={Plus} kind="filled" onPress={() => router.navigate('/start')} />
        <Button
          label="Export"
          icon={Download}
          onPress={async () => giveOut(await partOpenCase())}
          name="Export the open case as a file"
        />
        <GiveWater desk={desk} />
        <Button
          label="Import"
          icon={Upload}
          disabled={reading !== null}
          onPress={importIt}
          name="Import a case file"
        />
        {!doc.demo && (
          <Button
            label="Open the demo"
            onPress={async () => {
              const opened = await openDemo();
              setMessage(opened.ok ? null : opened.say);
              await refresh();
            }}
          />
        )}
        <Button label="Delete" onPress={() => setDeleting(true)} name="Delete the open case" />
      </View>
      {asks && (
        <Restore
          title={`${asks.bundle.case.name} is here already`}
          ways={['merge', 'replace', 'beside']}
          content={{ madeUtc: '', cases: [asks], unreadable: [], others: {} }}
          onClose={(words) => {
            setAsks(null);
            if (words) setMessage([words, message].filter(Boolean).join(' '));
          }}
        />
      )}
      {deleting && (
        <Sheet title={`Delete ${doc.name}?`} onClose={() => setDeleting(false)}>
          <Type>
            This takes the case with its history, readings and pictures out of this browser. It cannot be
            undone; an exported file can be imported again, a backup brings the pictures, too.
          </Type>
          <Button label="Export first" icon={Download} onPress={() => giveOut([])} />
          <Button
            label="Delete it"
            kind="filled"
            wide
            testID="delete-confirm"
            onPress={async () => {
              setMessage(await deleteOpenCase());
              await refresh();
              setDeleting(false);
              router.navigate('/case');
            }}
          />
        </Sheet>
      )}
    </Section>
  );
}
