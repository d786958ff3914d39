import { createContext, memo, useContext } from 'react';
import { Pressable, View } from 'react-native';
import Eye from 'lucide-react-native/icons/eye';
import Lock from 'lucide-react-native/icons/lock';

import type { Control } from '@/core/spectrum/lampKind';
import { Stepper } from '@/ui/Button';
import { Choice, ValueField } from '@/ui/Field';
import { parseNumber } from '@/ui/parseNumber';
import { Row } from '@/ui/Parts';
import { size, space, usePaper } from '@/ui/theme';
import { Type } from '@/ui/Type';

interface Props {
  id: string;
  kind: Control['kind'];
  name: string;
  /** what stands under the name: wavelength, tied channels, ends of a tint */
  about: string;
  level: number;
  caution: boolean;
  locked: boolean;
  step: number;
  onLevel: (id: string, level: number) => void;
  onOpen: (id: string) => void;
}

/** Percent of the lamps' PAR at the spot by control; without those that have no share of their own, and without light none. */
export const PartOfPar = createContext<Readonly<Record<string, number>>>({});

const shown = (level: number) => String(Math.round(level * 1000) / 10);
const WORDS: Record<Control['kind'], string> = {
  level: '% of full',
  brightness: '% of full',
  tint: '% of the way',
  trim: '% of its range',
  onOff: '',
};

/** One control under the comb: its value, typed or stepped, and its share of PAR. Its name opens what it does, solo and lock. */
export const ChannelRow = memo(function ChannelRow({
  id,
  kind,
  name,
  about,
  level,
  caution,
  locked,
  step,
  onLevel,
  onOpen,
}: Props) {
  return (
    <Row>
      <Head {...{ id, name, about, caution, locked, onOpen }} />
      <Setting id={id} kind={kind} name={name} level={level} locked={locked} step={step} onLevel={onLevel} />
    </Row>
  );
});

const Head = memo(function Head({
  id,
  name,
  about,
  caution,
  locked,
  onOpen,
}: Pick<Props, 'id' | 'name' | 'about' | 'caution' | 'locked' | 'onOpen'>) {
  return (
    <Pressable
      role="button"
      aria-label={`${name}: what it does, solo, lock`}
      onPress={() => onOpen(id)}
      style={{ flex: 1, minWidth: 0, minHeight: size.target, justifyContent: 'center' }}
    >
      <Name name={name} caution={caution} locked={locked} />
      <About id={id} about={about} />
    </Pressable>
  );
});

/** Every colour's share of PAR changes with each of the others: under a finger this line is drawn anew and nothing around it. */
function About({ id, about }: { id: string; about: string }) {
  const percent = useContext(PartOfPar)[id];
  return <Type kind="small">{percent === undefined ? about : `${about} · ${percent} % of PAR`}</Type>;
}

function Name({ name, caution, locked }: { name: string; caution: boolean; locked: boolean }) {
  const paper = usePaper();
  return (
    <View style={{ flexDirection: 'row', gap: 6, alignItems: 'center' }}>
      <Type kind="label" style={{ fontSize: 15, flexShrink: 1 }} numberOfLines={1}>
        {name}
      </Type>
      {caution && (
        <View role="img" aria-label="eye caution">
          <Eye size={15} color={paper.ink} strokeWidth={1.75} />
        </View>
      )}
      {locked && <Lock size={15} color={paper.ink} strokeWidth={1.75} aria-label="locked" />}
    </View>
  );
}

/** The part with fields and keys, redrawn only when this control's own value changes. */
const Setting = memo(function Setting({
  id,
  kind,
  name,
  level,
  locked,
  step,
  onLevel,
}: Pick<Props, 'id' | 'kind' | 'name' | 'level' | 'locked' | 'step' | 'onLevel'>) {
  if (kind === 'onOff') {
    return (
      <View style={{ width: 132 }} testID={`level-${id}`}>
        <Choice
          label={name}
          hideLabel
          value={level > 0 ? 'on' : 'off'}
          onChange={(to) => onLevel(id, to === 'on' ? 1 : 0)}
          options={[
            { value: 'off', label: 'Off' },
            { value: 'on', label: 'On' },
          ]}
        />
      </View>
    );
  }
  const by = step > 0 ? step : 0.01;
  return (
    <>
      <View style={{ width: 84 }}>
        <ValueField
          label={`${name}, ${WORDS[kind]}`}
          hideLabel
          value={shown(level)}
          unit="%"
          numeric
          testID={`level-${id}`}
          onCommit={(text) => {
            const value = parseNumber(text);
            if (value === null || value < 0 || value > 100) return '0 to 100';
            if (locked) return 'locked';
            onLevel(id, value / 100);
            return null;
          }}
        />
      </View>
      <View style={{ marginLeft: space.xs }}>
        <Stepper
          name={name}
          atLow={locked || level <= 0}
          atHigh={locked || level >= 1}
          onStep={(sign) => onLevel(id, Math.min(1, Math.max(0, Math.round((level + sign * by) / by) * by)))}
        />
      </View>
    </>
  );
});
