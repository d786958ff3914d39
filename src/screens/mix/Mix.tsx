import { memo, useCallback, useRef, useState } from 'react';
import type { View } from 'react-native';

import { several } from '@/core/shape/counts';
import { percent } from '@/core/shape/percent';
import { dims, hasCap } from '@/core/spectrum/controls';
import { useKeptDesk } from '@/state/desk';
import { useSettings } from '@/state/settings';
import { Page, usePageSize } from '@/ui/Page';
import { Section } from '@/ui/Parts';

import { TubeCaution } from '../shared/Cautions';
import { DraftLine } from '../shared/DraftLine';
import { GroupChoice } from '../shared/GroupChoice';
import { stageGoes } from '../shared/Look';
import { NoLamps } from '../shared/NoLamps';
import { otherLight } from './behind';
import { CombKeys, MixKeys, type Opened } from './keys';
import {
  MixBehind,
  MixComb,
  MixControl,
  MixFigures,
  MixMeter,
  MixRows,
  MixSays,
  MixSpots,
  MixStage,
  MixVerdict,
} from './moved';
import { Moving } from './now';
import { PhotographSheet } from './PhotographSheet';
import { PlateSheet } from './PlateSheet';
import { PutOn } from './PutOn';
import { TakeComb } from './TakeComb';
import { useLevels } from './useLevels';

/** The mix: one plate of one group of lamps, pulled on its comb. */
export function Mix() {
  const desk = useKeptDesk();
  return desk.group && desk.plate ? <Filled /> : <NoLamps title="Mix" />;
}

/** The page; what a finger moves on it is drawn by its own parts. */
const Filled = memo(function Filled() {
  const desk = useKeptDesk();
  const { doc, zone } = desk;
  const group = desk.group!;
  const kind = desk.lampKind!;
  const plate = desk.plate!;
  const page = usePageSize();
  const [selected, setSelected] = useState<string | null>(null);
  const [open, setOpen] = useState<Opened>(null);
  const [control, setControl] = useState<string | null>(null);
  const [soloWanted, setSolo] = useState<string | null>(null);
  const solo = kind.controls.some((c) => c.id === soloWanted) ? soloWanted : null;
  const behindKey = useSettings((s) => s.behind);
  const comb = useRef<View>(null);
  const levels = useLevels(kind, plate.id, setSelected);
  const openPlates = useCallback(() => setOpen('plates'), []);
  const endSolo = useCallback(() => setSolo(null), []);
  const close = useCallback(() => setOpen(null), []);

  return (
    <Moving solo={solo}>
      <Page
        testID="mix"
        title={plate.name}
        titleOpens={{ name: `Plate ${plate.name}: choose, copy, rename`, onPress: openPlates }}
        under={`${kind.name} · ${several(group.lamps.map((l) => l.name))}${dims(kind) ? ` · ${hasCap(kind) ? 'cap' : 'strength'} ${percent(group.capShare)}` : ''}`}
        stageGoes={stageGoes(page.main, zone.tank)}
        stage={<MixStage />}
        set={
          <>
            <MixRows selected={selected} onLevel={levels.setLevel} onOpen={setControl} />
            {kind.source !== 'led' && <TubeCaution />}
          </>
        }
        side={
          <>
            <MixFigures />
            <Section title="With this mix">
              <PutOn doc={doc} group={group} plate={plate} />
              <MixKeys plateId={plate.id} onOpen={setOpen} />
              <TakeComb box={comb} {...{ kind, plate }} />
            </Section>
            <MixSpots />
          </>
        }
      >
        <GroupChoice />
        <MixComb box={comb} {...{ selected, levels }} onSelect={setSelected} />
        <CombKeys
          scales={dims(kind)}
          solo={solo !== null}
          behind={otherLight(doc, behindKey) !== null}
          onScale={levels.scale}
          onEndSolo={endSolo}
          onOpen={setOpen}
        />
        <MixVerdict />
        <DraftLine desk={desk} />
        <MixSays selected={selected} />
        {open === 'plates' && <PlateSheet doc={doc} onClose={close} />}
        {open === 'behind' && <MixBehind onClose={close} />}
        {open === 'meter' && <MixMeter onClose={close} />}
        {open === 'photograph' && <PhotographSheet onClose={close} />}
        {control !== null && kind.controls.some((c) => c.id === control) && (
          <MixControl id={control} onSolo={setSolo} onClose={() => setControl(null)} />
        )}
      </Page>
    </Moving>
  );
});
