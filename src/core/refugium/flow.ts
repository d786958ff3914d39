import { lengthWords, volumeWords } from '../shape/units';
import type { MatFlow, Zone } from '../record/zone';

export interface FlowWord {
  standing: 'good' | 'mind' | 'wrong';
  words: string;
}

/** Turns an hour between which mats do well. Mark: rule of thumb. */
const TURNS = { from: 4, to: 20 } as const;
/** Free height beyond what runs back. Mark: rule of thumb. */
const SPARE_CM = 3;

const WAY: Readonly<Record<MatFlow['way'], FlowWord>> = {
  over: {
    standing: 'good',
    words:
      'Water over the top of the mat brings carbon and nutrients to the part that is lit and carries waste away.',
  },
  through: {
    standing: 'good',
    words:
      'Water through the mat feeds all of it; it also packs it against whatever holds it back. Turn it over at every harvest.',
  },
  beneath: {
    standing: 'mind',
    words:
      'Water beneath the mat passes the dark side: the lit top stands still and starves of carbon. Lift the inlet, or weigh the mat down.',
  },
  still: {
    standing: 'wrong',
    words:
      'Hardly any water moves over it: around each thread carbon and nutrients run out within the hour, however much light there is.',
  },
};

/** A short check of how water passes the algae. */
export function flowCheck(flow: MatFlow, tank: Zone['tank']): FlowWord[] {
  const out: FlowWord[] = [WAY[flow.way]];
  out.push(
    flow.leaves === 'weir'
      ? {
          standing: 'good',
          words:
            'Over a weir the surface is drawn off: film goes with it and the level stands still. Threads go with it too: screen it.',
        }
      : {
          standing: flow.way === 'over' ? 'mind' : 'good',
          words:
            flow.way === 'over'
              ? 'Under a baffle water is drawn down past the mat; a film stays on the surface and takes light. Let some of it run over the top.'
              : 'Under a baffle threads stay back, but a film stays on the surface and takes light: skim it off when you harvest.',
        },
  );
  if (flow.turnsPerHour === null)
    out.push({
      standing: 'mind',
      words: `Turns an hour are not known. They are what the pump moves in an hour, divided by what this box holds (${volumeWords(litres(tank))}). ${TURNS.from} to ${TURNS.to} suit most mats.`,
    });
  else
    out.push(
      flow.turnsPerHour < TURNS.from
        ? {
            standing: 'mind',
            words: `${figure(flow.turnsPerHour)} turns an hour: little. ${TURNS.from} to ${TURNS.to} suit most mats.`,
          }
        : flow.turnsPerHour > TURNS.to
          ? {
              standing: 'mind',
              words: `${figure(flow.turnsPerHour)} turns an hour: strong. Loose mats drift into a corner; a screen or a coarse net holds them.`,
            }
          : { standing: 'good', words: `${figure(flow.turnsPerHour)} turns an hour: right for most mats.` },
    );
  out.push(
    flow.screened
      ? {
          standing: 'good',
          words:
            'Pump and weir are screened. Look at the screen at every harvest: a clogged one raises the water.',
        }
      : {
          standing: 'wrong',
          words:
            'Nothing keeps threads from the pump: one strand stops an impeller, and a stopped return raises or empties a box. Fit a coarse screen.',
        },
  );
  if (flow.headroomCm !== null && flow.drainsL !== null) {
    const rise = (flow.drainsL * 1000) / (tank.lengthCm * tank.widthCm);
    const left = flow.headroomCm - rise;
    out.push({
      standing: left >= SPARE_CM ? 'good' : left >= 0 ? 'mind' : 'wrong',
      words: `When the pump stops ${volumeWords(flow.drainsL)} run back: ${lengthWords(rise, rise < 10)} in a box of this size alone, with ${lengthWords(flow.headroomCm, true)} free. ${
        left >= SPARE_CM
          ? 'Enough, and some for a clogged screen.'
          : left >= 0
            ? `Only ${lengthWords(left, left < 10)} to spare: a clogged screen would use it up. Lower the level.`
            : `It would run over by ${lengthWords(-left, left > -10)}: lower the level, or share it with the rest of the sump.`
      }`,
    });
  } else
    out.push({
      standing: 'mind',
      words:
        'Headroom is not known: measure the free height, stop the pump once, and watch where the water stands.',
    });
  return out;
}

const litres = (t: Zone['tank']) => (t.lengthCm * t.widthCm * t.depthCm) / 1000;
const figure = (v: number) => (v >= 9.95 ? v.toFixed(0) : v.toFixed(1));
