import { useQueryClient } from '@tanstack/react-query';
import { router } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';

import { cameraLight } from '@/core/case/cameraLight';
import { litWords, picturesOf } from '@/core/case/pictures';
import { formatTime } from '@/core/day/clock';
import type { Photo } from '@/core/record/log/photo';
import { plural } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';
import { dims } from '@/core/spectrum/controls';
import { setExtras } from '@/state/commands/days';
import { removeEvent, setEvent } from '@/state/commands/log';
import { useDesk } from '@/state/desk';
import { newId } from '@/state/id';
import { addPhoto, MOST_PX, photoQuery, removePhoto, roomLeft } from '@/state/photos';
import { run } from '@/state/session';
import { addDays, localDate, longDate, shortDate, useNowMs, utcIso, wallMinute } from '@/state/time';
import { Button } from '@/ui/Button';
import { keepBlob, pickPicture } from '@/ui/files';
import { Page } from '@/ui/Page';
import { Section } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';

import { OfSpot } from '../shared/OfSpot';
import { Blind } from './Blind';
import { Compare } from './Compare';
import { Thumbnail } from './Picture';

const LARGEST_FILE = 40_000_000;
const MB = 1e6;
const sizeWords = (bytes: number): string =>
  bytes < MB ? `${Math.max(1, Math.round(bytes / 1000))} KB` : `${(bytes / MB).toFixed(1)} MB`;

/** Pictures of one coral over time: kept, compared, followed in colour, and judged without their dates. */
export function Pictures() {
  const { zone, bundle, spot, doc } = useDesk();
  const nowMs = useNowMs();
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [told, setTold] = useState('');
  const [room, setRoom] = useState<number | null>(null);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [asking, setAsking] = useState<string | null>(null);
  const all = spot ? picturesOf(bundle.log, spot.id) : [];
  const picked = all.filter((p) => chosen.includes(p.id));
  useEffect(() => void roomLeft().then(setRoom), [all.length]);
  const add = async () => {
    const file = await pickPicture(LARGEST_FILE);
    if (!file || !spot) return;
    if ('problem' in file) return setTold(`${file.name}: ${file.problem}`);
    setBusy(true);
    const id = newId();
    const made = await addPhoto(id, doc.id, file.file);
    setBusy(false);
    if ('problem' in made) return setTold(`${file.name}: ${made.problem}`);
    // a file says when it was taken; one from the future does not
    const atUtc = utcIso(Math.min(nowMs, file.file.lastModified || nowMs));
    const before = all.at(-1);
    const entry: Photo = {
      ...{ id, zoneId: zone.id, atUtc, note: '', kind: 'photo', spotId: spot.id },
      ...{ widthPx: made.widthPx, heightPx: made.heightPx, bytes: made.blob.size },
      lit: litWords(zone, bundle.history, atUtc),
      // where the card and the patch were last time is where they are looked for first
      ...(before?.grey ? { grey: before.grey } : {}),
      ...(before?.patch ? { patch: before.patch } : {}),
    };
    if (!run(setEvent(entry, `a picture of ${spot.name}`))) return;
    setChosen([...chosen.slice(-1), id]);
    setTold(
      `${file.name} is kept with at most ${MOST_PX} px, ${sizeWords(made.blob.size)} of ${sizeWords(file.file.size)}. The full picture stays where you took it from, and only there.`,
    );
  };
  const toggle = (id: string) =>
    setChosen(chosen.includes(id) ? chosen.filter((x) => x !== id) : [...chosen.slice(-1), id]);
  const keep = async (p: Photo) => {
    const found = await client.fetchQuery(photoQuery(p.id));
    if (found) keepBlob(`${spot!.name} ${localDate(Date.parse(p.atUtc), zone.timeZone)}.jpg`, found.blob);
    else
      setTold(
        'This picture is not in this browser: it was taken on another device, or its storage was cleared.',
      );
  };
  return (
    <Page
      testID="pictures"
      title="Pictures"
      under={zone.name}
      sentence={
        <Type kind="sentence" testID="pictures-sentence" style={{ maxWidth: 700 }}>
          {!spot
            ? 'Nobody is known to live here yet.'
            : all.length === 0
              ? `No picture of ${spot.name} yet. The same plate, hour and place each time, with a grey card in the frame, and a year tells more than any memory.`
              : `${plural(all.length, 'picture')} of ${spot.name} since ${shortDate(localDate(Date.parse(all[0]!.atUtc), zone.timeZone))}. Choose two to compare.`}
        </Type>
      }
      side={
        <>
          {all.length > 2 && spot && <Blind key={`${spot.id} ${all.length}`} pictures={all} />}
          <Section title="Where they are">
            <Type kind="small" testID="pictures-room">
              {`Pictures stay in this browser and are no part of the case file: keep each as a file that you want elsewhere.${room === null ? '' : ` The browser still has about ${room > 1e9 ? `${(room / 1e9).toFixed(0)} GB` : `${Math.round(room / MB)} MB`} for them.`}`}
            </Type>
            <CameraLight last={all.at(-1) ?? null} onTold={setTold} />
          </Section>
        </>
      }
    >
      <OfSpot says="Of" spots={zone.spots} spot={spot} />
      {spot && (
        <Button
          label={busy ? 'It is being made smaller …' : 'Add a picture'}
          kind="filled"
          wide
          disabled={busy}
          onPress={() => void add()}
          testID="picture-add"
        />
      )}
      {told !== '' && (
        <Type kind="small" role="status" testID="picture-told">
          {told}
        </Type>
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.m }}>
        {all.map((p) => (
          <Thumbnail
            key={p.id}
            photo={p}
            timeZone={zone.timeZone}
            chosen={chosen.includes(p.id)}
            onPress={() => toggle(p.id)}
          />
        ))}
      </View>
      {picked.length === 2 && (
        <Compare key={picked.map((p) => p.id).join()} pictures={all} pair={[picked[0]!, picked[1]!]} />
      )}
      {picked.length > 0 && (
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
          {picked.map((p) => {
            const day = longDate(Date.parse(p.atUtc), zone.timeZone);
            return (
              <View key={p.id} style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
                <Button
                  label={`Keep ${day} as a file`}
                  onPress={() => void keep(p)}
                  testID={`keep-${p.id}`}
                />
                <Button
                  label={asking === p.id ? `Remove ${day} for good` : `Remove ${day} …`}
                  onPress={() => {
                    if (asking !== p.id) {
                      setAsking(p.id);
                      return setTold(
                        'What is removed is gone from this browser: undo brings its entry back, not the picture. Keep it as a file first.',
                      );
                    }
                    setAsking(null);
                    if (run(removeEvent(p.id)))
                      void removePhoto(p.id).then(() => client.removeQueries(photoQuery(p.id)));
                  }}
                  testID={`remove-${p.id}`}
                />
              </View>
            );
          })}
        </View>
      )}
    </Page>
  );
}

/** After so long the light can be at the lamp, minutes. Mark: rule of thumb. */
const SOON_MIN = 10;
const DAY_MIN = 1440;

/** Light for the camera, at the hour of the last picture: drafted in one tap, typed in with the sheet. */
function CameraLight({ last, onTold }: { last: Photo | null; onTold: (words: string) => void }) {
  const { doc, zone, group, lampKind } = useDesk();
  const nowMs = useNowMs();
  const now = wallMinute(nowMs, zone.timeZone);
  const fives = (minute: number) => (Math.ceil(minute / 5) * 5) % DAY_MIN;
  const minute = fives(last ? wallMinute(Date.parse(last.atUtc), zone.timeZone) : now + SOON_MIN);
  const today = localDate(nowMs, zone.timeZone);
  const at = { id: '', date: minute < now ? addDays(today, 1) : today, fromMinute: minute };
  const made = group && lampKind ? cameraLight(doc, lampKind, group, at) : null;
  if (!group || !made) return null;
  const when = `${shortDate(at.date)} ${formatTime(minute)}`;
  const there = group.extras?.interludes?.some((i) => i.date === at.date && i.fromMinute === minute);
  return (
    <View style={{ gap: space.s }}>
      <Type kind="small">
        {`${made.mixName}${lampKind && dims(lampKind) ? ` at ${percent(made.strengthShare)}` : ''} for ${made.minutes} min${last ? ', at the hour of the last picture' : ''}: the same light each time is what makes pictures comparable.`}
      </Type>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: space.s }}>
        <Button
          label={there ? 'Type it in' : `Draft camera light, ${when}`}
          onPress={() => {
            if (there) return router.navigate('/sheet');
            const interludes = [...(group.extras?.interludes ?? []), { ...made, id: newId() }];
            if (run(setExtras(group.id, (e) => ({ ...e, interludes }))))
              onTold(`Drafted for ${when}: it comes once it is typed into the lamp.`);
          }}
          testID="camera-light"
        />
        <Button label="Other light" kind="plain" onPress={() => router.navigate('/around')} />
      </View>
    </View>
  );
}
