import { useQueryClient } from '@tanstack/react-query';
import { View } from 'react-native';
import { forget, savedText, useAside } from '@/state/library';
import { changeSettings, type Settings, useSettings } from '@/state/settings';
import { Button } from '@/ui/Button';
import { download } from '@/ui/files';
import { Row, Section } from '@/ui/Parts';
import { Sentence, type SetPart } from '@/ui/Sentence';
import { Type } from '@/ui/Type';

const UNITS = {
  length: { name: 'Lengths', say: { cm: 'centimetres', in: 'inches' } },
  volume: { name: 'Water', say: { l: 'litres', gal: 'US gallons' } },
  temperature: { name: 'Temperature', say: { '°C': 'Celsius', '°F': 'Fahrenheit' } },
  clock: { name: 'Hours', say: { '24 h': '0 to 24', '12 h': 'am and pm' } },
} as const;

/** How this device shows things; files keep centimetres, litres, Celsius and 24 hours. */
export function ThisDevice() {
  const paper = useSettings((s) => s.paper);
  const units = useSettings((s) => s.units);
  const part = (of: keyof typeof UNITS): SetPart => ({
    id: `units-${of}`,
    name: UNITS[of].name,
    value: (UNITS[of].say as Record<string, string>)[units[of]]!,
    chosen: units[of],
    options: Object.entries(UNITS[of].say).map(([value, label]) => ({ value, label })),
    onChoose: (value) => changeSettings({ units: { ...units, [of]: value } }),
  });
  const papers: SetPart = {
    id: 'paper',
    name: 'Paper',
    value: paper === 'system' ? 'as the system' : paper,
    chosen: paper,
    options: [
      { value: 'system', label: 'as the system' },
      { value: 'day', label: 'day' },
      { value: 'night', label: 'night' },
    ],
    onChoose: (value) => changeSettings({ paper: value as Settings['paper'] }),
  };
  return (
    <Section title="This device">
      <Sentence
        parts={[
          ...[
            'Lengths in ',
            part('length'),
            ', water in ',
            part('volume'),
            ', temperature in ',
            part('temperature'),
            ', hours ',
            part('clock'),
          ],
          ...[', paper ', papers, '.'],
        ]}
      />
    </Section>
  );
}

/** Documents that could not be read: kept as they were, to download or to drop. */
export function Aside() {
  const aside = useAside();
  const client = useQueryClient();
  if (!aside.data || aside.data.length === 0) return null;
  return (
    <Section title="Set aside">
      <Type kind="small">
        This could not be read, or not be saved, when the app was opened. It is kept as it was found: download
        it, and import it again; what can be read of it comes back.
      </Type>
      {aside.data.map((a) => (
        <Row key={a.key}>
          <View style={{ flex: 1 }}>
            <Type kind="label">{a.what}</Type>
            <Type kind="small">{a.reason}</Type>
          </View>
          <Button
            label="Download"
            onPress={async () =>
              download(`${a.from.replace(/\W+/g, '-')}.txt`, (await savedText(a.key)) ?? '', 'text/plain')
            }
          />
          <Button
            label="Drop"
            kind="plain"
            onPress={async () => {
              await forget(a.key);
              await client.invalidateQueries({ queryKey: ['library'] });
            }}
          />
        </Row>
      ))}
    </Section>
  );
}
