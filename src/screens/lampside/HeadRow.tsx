import { useQuery } from '@tanstack/react-query';
import { View } from 'react-native';

import { type Program, programChanges } from '@/core/controller/program';
import { plural } from '@/core/shape/counts';
import { must, useBench } from '@/state/bench';
import type { LoadResult, LoadStep } from '@/state/load';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Field';
import { Fold, Row } from '@/ui/Parts';
import { space } from '@/ui/theme';
import { Type } from '@/ui/Type';
import { type Head, heldSchema } from '@/wire/wire';

const ENDINGS = { proven: '✓', held: '?', old: '○', mismatch: '▲', unknown: '?' } as const;

interface HeadRowProps {
  head: Head;
  line: NonNullable<ReturnType<typeof useBench>['line']>;
  program: Program;
  names: readonly string[];
  chosen: boolean;
  onChoose: () => void;
  step: LoadStep | undefined;
  result: LoadResult | undefined;
  onRestore: (() => void) | undefined;
  onShow: () => void;
  onFind: (() => void) | undefined;
  busy: boolean;
}

/** A head, what it holds against what it would get, and how it went. */
export function HeadRow({
  head,
  line,
  program,
  names,
  chosen,
  onChoose,
  step,
  result,
  onRestore,
  onShow,
  onFind,
  busy,
}: HeadRowProps) {
  const held = useQuery({
    queryKey: ['held', head.id, head.activeRevision, head.storedRevision, result?.ending ?? ''],
    queryFn: () => must(line.send('GET', `/heads/${head.id}/schedule`, null, heldSchema)),
    retry: 0,
    networkMode: 'always',
  });
  const changes = held.data ? programChanges(held.data.active, program, names) : null;
  return (
    <View style={{ gap: space.xs, paddingBottom: space.s }} testID={`load-${head.name}`}>
      <Check
        label={head.name}
        checked={chosen}
        onChange={onChoose}
        disabled={busy}
        aside={head.profile.name}
      />
      {onFind && (
        <Button
          label="Which lamp is it? Light it for a minute"
          name={`Which lamp is ${head.name}? Light it for a minute`}
          kind="plain"
          disabled={busy}
          onPress={onFind}
          testID={`find-${head.name}`}
        />
      )}
      {step && !result && (
        <Type kind="small" role="status">{`${step.words}, ${Math.round(step.share * 100)} %`}</Type>
      )}
      {result && (
        <Type
          kind="label"
          testID={`ending-${head.name}`}
        >{`${ENDINGS[result.ending]} ${result.words.charAt(0).toUpperCase()}${result.words.slice(1)}.`}</Type>
      )}
      {held.isError && !result && (
        <Type kind="small">▲ It does not answer, so what it holds is not known.</Type>
      )}
      {changes && !step && (
        <Fold
          title={
            changes.length === 0
              ? 'Holds this day already'
              : `${plural(changes.length, 'difference')} from what it holds`
          }
        >
          <View>
            {changes.slice(0, 40).map((c) => (
              <Type key={c} kind="small">{`· ${c}`}</Type>
            ))}
          </View>
        </Fold>
      )}
      {result?.ending === 'held' && (
        <>
          <Button
            label="Show its brightest point for a minute"
            disabled={busy}
            onPress={onShow}
            testID={`show-${head.name}`}
          />
          <Type kind="small">Light in the dark startles fish: do it while somebody is there, or wait.</Type>
        </>
      )}
      {result && onRestore && (
        <Row>
          <Button
            label="Put back what it held"
            disabled={busy}
            onPress={onRestore}
            testID={`restore-${head.name}`}
          />
        </Row>
      )}
    </View>
  );
}
