import { percent } from '../shape/percent';
import type { DesignFigures } from './aims';

/** The look as it is said: beyond its ends nothing is seen. */
const seen = (blueness: number): number => Math.round(100 * Math.min(1, Math.max(0, blueness)));

/** What an answer gains and gives up against the present mix; every sentence quotes a computed difference. */
export function reasonsFor(
  from: DesignFigures,
  to: DesignFigures,
  look: number,
): { reasons: string[]; givesUp: string[] } {
  const told: { gain: number; text: string }[] = [];
  const tell = (gain: number, least: number, text: string) => {
    if (Math.abs(gain) >= least) told.push({ gain: gain / least, text });
  };
  tell(to.usable - from.usable, 0.01, `usable light ${percent(from.usable)} → ${percent(to.usable)} of PAR`);
  tell(
    to.glow - from.glow,
    0.01,
    `glow ${percent(from.glow)} → ${percent(to.glow)} of what the corals send back`,
  );
  const corals = to.glowByCoral
    .map((c, i) => ({
      name: c.name,
      by: c.glow - from.glowByCoral[i]!.glow,
      from: from.glowByCoral[i]!.glow,
      to: c.glow,
    }))
    .sort((a, b) => Math.abs(b.by) - Math.abs(a.by));
  const most = corals[0];
  if (most) tell(most.by, 0.03, `${most.name} glows ${percent(most.from)} → ${percent(most.to)}`);
  tell(
    to.variety - from.variety,
    0.5,
    `spread of colours ${from.variety.toFixed(1)} → ${to.variety.toFixed(1)} (CAM16-UCS)`,
  );
  tell(
    Math.abs(from.blueness - look) - Math.abs(to.blueness - look),
    0.04,
    `look ${seen(from.blueness)} → ${seen(to.blueness)}, wanted ${Math.round(100 * look)} (0 icy white, 100 deep blue)`,
  );
  tell(from.red - to.red, 0.005, `red ${percent(from.red)} → ${percent(to.red)} of PAR`);
  tell(to.violet - from.violet, 0.01, `violet ${percent(from.violet)} → ${percent(to.violet)} of PAR`);
  tell(
    (from.watts - to.watts) / Math.max(1, from.watts),
    0.02,
    `${Math.round(from.watts)} → ${Math.round(to.watts)} W a lamp`,
  );
  tell(
    -Math.abs(to.par - from.par) / Math.max(1, from.par),
    0.02,
    `PAR ${Math.round(from.par)} → ${Math.round(to.par)} µmol: this lamp does not reach the same`,
  );
  const gains = told.filter((t) => t.gain > 0).sort((a, b) => b.gain - a.gain);
  const losses = told.filter((t) => t.gain < 0).sort((a, b) => a.gain - b.gain);
  return { reasons: gains.slice(0, 4).map((t) => t.text), givesUp: losses.slice(0, 3).map((t) => t.text) };
}
