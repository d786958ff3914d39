import { NEEDS, type NeedId } from '@/core/record/needs';
import { formatTime } from '@/core/day/clock';
import type { Spot } from '@/core/record/zone';
import { useSettings } from '@/state/settings';
import { Sentence, type SetPart } from '@/ui/Sentence';

import { chooseTank, type TankLight } from './useTankLight';

const SHOWS = [
  { value: 'plateau', label: 'PAR at a plateau' },
  { value: 'now', label: 'PAR at this moment' },
  { value: 'dli', label: 'light a day' },
] as const;
const VIEWS = [
  { value: 'top', label: 'From above' },
  { value: 'front', label: 'From the front' },
  { value: 'side', label: 'From the side' },
] as const;
const SECTIONS = [
  { value: 'front', label: 'from the front' },
  { value: 'side', label: 'from the side' },
] as const;
const WHOSE = [
  { value: 'running', label: 'as it runs' },
  { value: 'draft', label: 'as drafted' },
] as const;

/** What the chart shows, of which light, against what, and for whom: one sentence whose parts are set where they stand. */
export function ChartChoices({
  light,
  spot,
  wide,
  part: shownPart,
}: {
  light: TankLight;
  spot: Spot | null;
  wide: boolean;
  /** parts of a long tank, where a narrow screen shows one of them */
  part: { names: readonly string[]; chosen: string; turn: (to: string) => void } | null;
}) {
  const chosen = useSettings((s) => s.tank);
  const { list, what } = light;
  const part = <T extends string>(
    id: string,
    name: string,
    value: T,
    options: readonly { value: T; label: string }[],
    onChoose: (value: T) => void,
  ): SetPart => ({
    id,
    name,
    options,
    chosen: value,
    value: options.find((o) => o.value === value)?.label ?? value,
    onChoose: (v) => onChoose(v as T),
  });
  const plateaus = list.map((p) => ({ value: String(p.minute), label: `${formatTime(p.minute)} ${p.name}` }));
  const against = chosen.against === 'plateau' ? `p${chosen.againstMinute}` : chosen.against;
  const others = [
    { value: 'none', label: 'nothing' },
    { value: 'other', label: light.whose === 'running' ? 'the draft' : 'what runs' },
    ...(what === 'plateau'
      ? plateaus
          .filter((p) => p.value !== String(light.minute))
          .map((p) => ({ value: `p${p.value}`, label: p.label }))
      : []),
  ];
  const suits = what !== 'dli' && !light.against;
  return (
    <Sentence
      testID="chart-sentence"
      parts={[
        ...(wide
          ? [
              'The chart and its section ',
              part('view', 'Seen', chosen.view === 'side' ? 'side' : 'front', SECTIONS, (view) =>
                chooseTank({ view }),
              ),
              ' show ',
            ]
          : [
              part('view', 'Seen', chosen.view, VIEWS, (view) => chooseTank({ view })),
              ...(shownPart
                ? [
                    ', ',
                    part(
                      'part',
                      'Part of the tank',
                      shownPart.chosen,
                      [
                        { value: 'whole', label: 'the whole' },
                        ...shownPart.names.map((name, i) => ({ value: String(i), label: `the ${name}` })),
                      ],
                      shownPart.turn,
                    ),
                  ]
                : []),
              ': ',
            ]),
        part('shows', 'Shows', chosen.what, SHOWS, (next) => chooseTank({ what: next })),
        ...(what === 'plateau' && list.length > 1
          ? [
              ', ',
              part(
                'plateau',
                'Plateau',
                String(list.some((p) => p.minute === chosen.minute) ? chosen.minute : light.minute),
                plateaus,
                (minute) => chooseTank({ minute: Number(minute) }),
              ),
            ]
          : []),
        ', ',
        part('whose', 'Light', light.whose, WHOSE, (whose) => chooseTank({ whose })),
        ', set against ',
        part(
          'against',
          'Set against',
          others.some((o) => o.value === against) ? against : 'none',
          others,
          (to) =>
            to.startsWith('p')
              ? chooseTank({ against: 'plateau', againstMinute: Number(to.slice(1)) })
              : chooseTank({ against: to as 'none' | 'other' }),
        ),
        ...(suits
          ? [
              '; shaded where wrong for ',
              part(
                'suits',
                'Draws what suits',
                chosen.suits,
                [
                  { value: 'chosen', label: spot?.name ?? 'the chosen coral' },
                  { value: 'none', label: 'nobody' },
                  ...(Object.keys(NEEDS) as NeedId[]).map((id) => ({ value: id, label: NEEDS[id].name })),
                ],
                (next) => chooseTank({ suits: next }),
              ),
            ]
          : []),
        '.',
      ]}
    />
  );
}
