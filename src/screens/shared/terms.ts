interface Term {
  name: string;
  /** other words it is looked for by */
  also: string;
  /** how it stands on a page */
  seen: RegExp;
  means: string;
}

/** What the words of the product mean, each in a sentence or two, by the name under which it is looked for. */
export const TERMS: readonly Term[] = [
  {
    name: 'µmol (PAR)',
    also: 'par ppfd light photons brightness',
    seen: /µmol|\bPAR\b/,
    means:
      'Light that corals and plants can use, falling on a place each second: photons from 400 to 700 nm, µmol m⁻² s⁻¹. A PAR meter reads this.',
  },
  {
    name: 'mol a day (DLI)',
    also: 'dli dose daily light integral',
    seen: /mol a day|\bDLI\b/,
    means:
      'All the light that falls on a place in one day, mol m⁻² d⁻¹. A steady 200 µmol for ten hours is 7.2 mol; ramps give less.',
  },
  {
    name: '× what it is used to',
    also: 'step ratio accustomed acclimation ease',
    seen: /× what|used to\b/,
    means:
      'How many times the light that the coral has grown used to in the last weeks: over the whole day or at the peak, whichever is larger. Light counts as the coral takes it: at equal PAR blue counts up to half as much again as white. 1.00 × is no change. Above the most you allow at a time, usually 1.3 ×, ease it in.',
  },
  {
    name: '± and “perhaps”',
    also: 'band doubt estimate uncertainty',
    seen: /±|perhaps/i,
    means:
      'How far a figure may be off: nine times in ten the truth should lie within, if lamp, water and glass are about as described. “Perhaps” means that it may also be right. Readings with a meter make this smaller.',
  },
  {
    name: 'Plate',
    also: 'mix preset spectrum recipe',
    seen: /\bplates?\b/i,
    means:
      'A mix of a lamp’s channels, with a name. A day uses plates at its times: changing a plate changes every time that uses it.',
  },
  {
    name: 'Thread',
    also: 'point schedule time day program',
    seen: /\bthreads?\b/i,
    means:
      'A time of the day with a plate and a strength. Between two threads the lamp fades or holds, as it can.',
  },
  {
    name: 'Cap',
    also: 'master intensity limit maximum',
    seen: /\bcap\b/i,
    means:
      'The lamp’s own overall percent. Some lamps multiply every level by it, others set their highest level to it: Day says what yours does. Some have none.',
  },
  {
    name: 'Draft and “as it runs”',
    also: 'draft running typed in',
    seen: /as it runs|draft/i,
    means:
      'What you change here is a draft until it is in the lamp: typed in and said so on the sheet, or loaded. Today speaks of what runs.',
  },
  {
    name: 'Spot',
    also: 'place coral position',
    seen: /\bspots?\b/i,
    means: 'A place in the water: where a coral sits, or an empty one whose light you want to know.',
  },
  {
    name: 'Usable share (PUR)',
    also: 'pur photosynthetically usable',
    seen: /\bPUR\b|usable share/i,
    means:
      'What feeds the algae in a coral, over PAR: intact tissue takes half of most lights, more of blue than of green. Near UV feeds too and is no PAR.',
  },
  {
    name: 'Glow',
    also: 'fluorescence pop proteins',
    seen: /\bglow/i,
    means:
      'The share of a coral’s light that it gives off itself, because its proteins turn blue and violet into other colours.',
  },
  {
    name: 'Spread of colours',
    also: 'variety cam16',
    seen: /spread|CAM16/i,
    means:
      'How different the corals’ colours look under a light. A difference below 1 is not seen; about 20 is a colourful tank (rule of thumb).',
  },
  {
    name: 'Yellow water',
    also: 'carbon gelbstoff yellow substances',
    seen: /yellow|carbon/i,
    means:
      'Dissolved matter that takes blue and violet out of the light on its way down. Fresh carbon removes it, and the corals suddenly get more light.',
  },
  {
    name: 'Interlude',
    also: 'for a while photograph feeding cleaning',
    seen: /interlude/i,
    means: 'Another light for some minutes, after which the day goes on by itself.',
  },
];
