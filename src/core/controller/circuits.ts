import { type ResolvedThread, lampLevels } from '../day/thread';
import { NAME_LENGTH } from '../shape/shape';
import type { ControllerProfile, LampKind, Levels } from '../spectrum/lampKind';

/** Which circuit of a clock each control of a lamp hangs on: control id → number of the circuit, from 1. */
export type Wiring = Readonly<Record<string, number>>;

/** A lamp whose colours can hang on circuits apart: a level each, and no channel under two of them. */
export const canBeWired = (kind: LampKind): boolean => {
  const driven = kind.controls.flatMap((c) => (c.kind === 'level' ? Object.keys(c.drives) : ['', '']));
  return kind.controls.length > 1 && new Set(driven).size === driven.length;
};

/** The most each channel is set to in a day, 0 to 1: where its own dial would stand. @returns per channel */
export const dialsOf = (kind: LampKind, threads: readonly ResolvedThread[]): number[] =>
  threads
    .map((t) => lampLevels(kind, t.mix, t.strengthShare))
    .reduce(
      (most, levels) => most.map((v, c) => Math.max(v, levels[c]!)),
      kind.channels.map(() => 0),
    );

/**
 * A lamp that dims behind a clock that only switches: each circuit is on or off, and lights its colours as far as their dials stand.
 * Colours whose dial stands at nothing stay dark. @param dials per channel, 0 to 1
 */
export function wired(
  kind: LampKind,
  controller: ControllerProfile,
  wiring: Wiring,
  dials: readonly number[],
): LampKind {
  const circuits = [...new Set(kind.controls.map((c) => wiring[c.id] ?? 1))].sort((a, b) => a - b);
  return {
    ...kind,
    controller,
    controls: circuits.map((n) => {
      const on = kind.controls.filter((c) => (wiring[c.id] ?? 1) === n);
      const drives = on.flatMap((c) => ('drives' in c ? Object.keys(c.drives) : []));
      return {
        kind: 'onOff' as const,
        id: `circuit-${n}`,
        name: `Circuit ${n}: ${on.map((c) => c.name).join(', ')}`.slice(0, NAME_LENGTH),
        drives: Object.fromEntries(
          drives.map((id) => [id, dials[kind.channels.findIndex((c) => c.id === id)] ?? 0]),
        ),
      };
    }),
  };
}

/** A mix of the lamp as it was, as circuits: on where any of its colours was lit. */
export const onCircuits = (kind: LampKind, wiring: Wiring, mix: Levels): Levels => {
  const out: Record<string, number> = {};
  for (const c of kind.controls) {
    const id = `circuit-${wiring[c.id] ?? 1}`;
    out[id] = Math.max(out[id] ?? 0, (mix[c.id] ?? 0) > 0 ? 1 : 0);
  }
  return out;
};
