import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import Archive from 'lucide-react-native/icons/archive';
import ArchiveRestore from 'lucide-react-native/icons/archive-restore';

import { plural } from '@/core/shape/counts';
import { problemLine } from '@/core/record/read';
import {
  type BackedUp,
  type BackupContent,
  hasSettings,
  makeBackup,
  openBackup,
  type Standing,
  standingOf,
  takeCase,
  takeOthers,
  type Way,
} from '@/state/backup';
import { roomLeft } from '@/state/photos';
import { keptForGood } from '@/state/keeping';
import { useSettings } from '@/state/settings';
import { daysAgo, longDate, deviceTimeZone, useNowMs } from '@/state/time';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Field';
import { keepBlob, pickBlob } from '@/ui/files';
import { SolvingRow } from '@/screens/shared/SolvingRow';
import { Section } from '@/ui/Parts';
import { Sheet } from '@/ui/Sheet';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

const LARGEST_BACKUP = 2_000_000_000;

/** Everything of this browser as one file, and back. */
export function Backup() {
  const nowMs = useNowMs();
  const backedUp = useSettings((s) => s.backedUpUtc);
  const [work, setWork] = useState<{ what: string; share: number; stop: () => void } | null>(null);
  const [told, setTold] = useState('');
  const [content, setContent] = useState<BackupContent | null>(null);
  const room = useQuery({ queryKey: ['room', told], queryFn: roomLeft, networkMode: 'always' });
  const kept = useQuery({ queryKey: ['kept for good'], queryFn: keptForGood, networkMode: 'always' });
  /** Does what takes a while, with how far it is and a way to stop it. */
  const at = async (
    what: string,
    work: (onShare: (share: number) => void, signal: AbortSignal) => Promise<void>,
  ) => {
    const halt = new AbortController();
    const stop = () => halt.abort();
    setTold('');
    setWork({ what, share: 0, stop });
    try {
      await work((share) => setWork({ what, share, stop }), halt.signal);
    } catch (error) {
      setTold(
        halt.signal.aborted
          ? 'Stopped; nothing was changed.'
          : `${what} went wrong: ${(error as Error).message}. Nothing was changed.`,
      );
    }
    setWork(null);
  };
  const make = () =>
    at('Backing up', async (onShare, signal) => {
      const { name, blob } = await makeBackup(onShare, signal);
      keepBlob(name, blob);
      setTold(`${name}, ${mega(blob.size)}: put it where this device cannot lose it.`);
    });
  const open = async () => {
    const picked = await pickBlob(['application/zip', '.zip'], LARGEST_BACKUP);
    if (!picked) return;
    if ('problem' in picked) return setTold(`${picked.name}: ${picked.problem}`);
    await at('Reading', async (onShare, signal) => {
      const read = await openBackup(picked.file, onShare, signal);
      if (read.ok) setContent(read.value);
      else
        setTold(`${picked.name}: ${problemLine(read.problem)}. ${read.problem.remedy} Nothing was changed.`);
    });
  };
  return (
    <Section title="Backup">
      <Type kind="small" testID="backup-state">
        {[
          backedUp === null
            ? 'Never backed up from this browser.'
            : `Last backed up ${daysAgo(backedUp, nowMs, deviceTimeZone())}.`,
          kept.data === true
            ? 'The browser has said that it keeps this.'
            : kept.data === false
              ? 'The browser may clear this when its device runs out of room.'
              : '',
          room.data == null ? '' : `About ${mega(room.data)} are free for it.`,
        ]
          .filter(Boolean)
          .join(' ')}
      </Type>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label="Back up all"
          icon={Archive}
          disabled={work !== null}
          onPress={() => void make()}
          testID="backup-make"
        />
        <Button
          label="From a backup"
          icon={ArchiveRestore}
          disabled={work !== null}
          onPress={() => void open()}
          testID="backup-open"
        />
      </View>
      {work && (
        <SolvingRow solver={{ progress: work.share, error: null, cancel: work.stop }} what={work.what} />
      )}
      {told !== '' && (
        <Type kind="small" role="status" testID="backup-told">
          {told}
        </Type>
      )}
      {content && (
        <Restore
          content={content}
          onClose={(words) => {
            setContent(null);
            if (words) setTold(words);
          }}
        />
      )}
    </Section>
  );
}

const mega = (bytes: number): string =>
  bytes > 1e9
    ? `${(bytes / 1e9).toFixed(1)} GB`
    : `${Math.max(0.1, bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

const WAYS: Record<Way, string> = {
  bring: 'bring it in',
  merge: 'merge with what is here',
  replace: 'put it in place of what is here',
  beside: 'as a case of its own',
  leave: 'leave it',
};

/** What a backup or a file holds, case by case, and what is done with each; nothing is changed before it is said. */
export function Restore({
  content,
  title = 'From a backup',
  ways: offered = ['merge', 'replace', 'leave'],
  onClose,
}: {
  content: BackupContent;
  title?: string;
  /** what can be done with a case that is here otherwise */
  ways?: readonly Way[];
  onClose: (words?: string) => void;
}) {
  const client = useQueryClient();
  const standings = useQuery({
    queryKey: ['standings', content.madeUtc],
    queryFn: async () =>
      new Map(await Promise.all(content.cases.map(async (c) => [c.id, await standingOf(c)] as const))),
    gcTime: 0,
    networkMode: 'always',
  });
  const [ways, setWays] = useState<Readonly<Record<string, Way>>>({});
  const [pictures, setPictures] = useState<number | null>(null);
  const [settings, setSettings] = useState<'mine' | 'theirs'>('mine');
  const wayOf = (c: BackedUp, s: Standing): Way =>
    ways[c.id] ?? (s.same ? 'leave' : s.here ? 'merge' : 'bring');
  const take = async () => {
    setPictures(0);
    const words: string[] = [];
    try {
      for (const c of content.cases) {
        const way = wayOf(c, standings.data!.get(c.id)!);
        if (way !== 'leave') words.push(await takeCase(c, way, setPictures));
      }
      const refused = await takeOthers(content, settings === 'theirs');
      if (refused !== null) words.push(`What is no case was not taken: ${refused}`);
      else if (settings === 'theirs') words.push('The settings count from the next start on.');
    } catch (error) {
      words.push(`It stopped there: ${(error as Error).message}.`);
    }
    for (const key of ['library', 'photo', 'photo mean', 'room'])
      await client.invalidateQueries({ queryKey: [key] });
    setPictures(null);
    onClose(words.length === 0 ? 'Nothing was taken from it.' : words.join(' '));
  };
  return (
    <Sheet title={title} onClose={() => onClose()}>
      {content.madeUtc !== '' && (
        <Type kind="small">{`Made ${longDate(Date.parse(content.madeUtc), deviceTimeZone())}.`}</Type>
      )}
      {standings.data &&
        content.cases.map((c) => {
          const s = standings.data.get(c.id)!;
          return (
            <View key={c.id} style={{ gap: space.xs }} testID={`backed-${c.id}`}>
              <Type kind="label">{c.bundle.case.name}</Type>
              <Type kind="small">
                {[
                  plural(c.bundle.log.events.length, 'log entry', 'log entries'),
                  plural(c.photos.length, 'picture'),
                  s.same ? 'as it is here' : s.here ? 'otherwise than here' : 'not here',
                  c.leftOut > 0 ? `${plural(c.leftOut, 'entry', 'entries')} cannot be read` : '',
                ]
                  .filter(Boolean)
                  .join(', ')}
              </Type>
              {!s.same && (
                <Choice
                  label={`What is done with ${c.bundle.case.name}`}
                  hideLabel
                  value={wayOf(c, s)}
                  onChange={(way) => setWays({ ...ways, [c.id]: way })}
                  options={(s.here ? offered : (['bring', 'leave'] as const)).map((value) => ({
                    value,
                    label: WAYS[value],
                  }))}
                />
              )}
            </View>
          );
        })}
      {hasSettings(content) && (
        <Choice
          label="Settings (units, paper, habits)"
          value={settings}
          onChange={setSettings}
          options={[
            { value: 'mine', label: 'as they are here' },
            { value: 'theirs', label: 'as in the backup' },
          ]}
        />
      )}
      {content.unreadable.length > 0 && (
        <Type kind="small">{`${plural(content.unreadable.length, 'case')} in it cannot be read; the file still has them.`}</Type>
      )}
      <Type kind="small">
        Merging takes what changed there since the two parted and keeps what changed here; where both changed
        the same thing, what is here stays and is named. Undo takes it back.
      </Type>
      <Button
        label={pictures === null ? 'Take it' : `Taking it ${Math.round(pictures * 100)} %`}
        kind="filled"
        wide
        disabled={pictures !== null || !standings.data}
        onPress={() => void take()}
        testID="backup-take"
      />
    </Sheet>
  );
}
