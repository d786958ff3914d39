import { CAUSES } from '@/core/refugium/judge';

import { grams, umol } from '../shared/words';
import type { MatState } from './useMats';

/** The algae of a water in one sentence a person would say. */
export function algaeSentence(mats: readonly MatState[], lit: boolean): string {
  if (mats.length === 0)
    return lit
      ? 'No algae are known here. Add a mat, and its light, growth and export are reckoned.'
      : 'No algae and no lamp are known here yet: “Which tank is it?” leads to both.';
  if (!lit) return 'No lamp hangs over these algae yet.';
  const m = mats.find((x) => x.overlit) ?? mats[0]!;
  if (!m.alga) return `Which alga ${m.spot.name} is has not been said yet.`;
  if (!m.light) return 'The light over the algae is being computed.';
  if (m.overlit) return `${m.spot.name} gets more light than it takes: move it or dim the lamp.`;
  if (m.fit?.standing === 'refused')
    return `${m.spot.name} cannot live well on this light: it is near-pure blue.`;
  if (m.light.mean < m.wants.fromUmol)
    return `${m.spot.name} gets ${umol(m.light.mean)} µmol and wants at least ${m.wants.fromUmol}.`;
  const j = m.judgement;
  if (!j?.growth)
    return `${m.spot.name} has the light it wants. Weigh two harvests, and it can be told whether it works.`;
  const grows = `${m.spot.name} puts on ${grams(j.growth.gainGPerDay)} g a day`;
  return j.verdict === 'fine'
    ? `${grows}, as such a mat does.`
    : j.verdict === 'cannotTell'
      ? `${grows}; what holds it back cannot be told yet.`
      : `${grows}. ${CAUSES[j.verdict]} would help it most.`;
}
