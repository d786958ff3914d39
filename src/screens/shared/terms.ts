export interface Term {
  name: string;
  /** other words it is looked for by */
  also: string;
  /** how it stands on a page */
  seen: RegExp;
  /** what it is, of what */
  means: string;
  /** of a figure: what it is measured in; absent = anything */
  units?: RegExp;
  /** of a figure: how it is made, and by what standard or rule */
  how?: string;
  /** of a figure: how far off it may be */
  sure?: string;
  /** rests on the light of these waters: what is known of that is said with it */
  light?: true;
  /** says little: only where nothing else fits */
  general?: true;
}

/** All that is said of a term. */
export const wholeTerm = ({ means, how, sure }: Term): string => [means, how, sure].filter(Boolean).join(' ');

/** How far a figure that rests on computed light may be off. */
const AS_LIGHT =
  'As sure as the light is: a third off is common before a reading, the ± beside it says how much.';

/**
 * The terms that a figure is told by: those seen in what it stands with, the nearest words first; none where nothing around it is
 * explained.
 */
export function termsOf(figure: string, around: readonly string[]): Term[] {
  for (const general of [undefined, true] as const)
    for (const text of around) {
      const told = TERMS.filter(
        (t) => t.how && t.general === general && t.seen.test(text) && (t.units?.test(figure) ?? true),
      );
      if (told.length > 0) return told;
    }
  return [];
}

/** What the words and figures of the product mean, by the name under which each is looked for; what is narrow first. */
export const TERMS: readonly Term[] = [
  {
    name: 'µmol (PAR)',
    also: 'par ppfd light photons brightness',
    seen: /µmol|\bPAR\b/,
    units: /µmol|^[\d\s.,–-]+$/,
    means:
      'Light that corals and plants can use, falling on a place each second: photons from 400 to 700 nm, µmol m⁻² s⁻¹. A PAR meter reads this.',
    how: 'Every emitter’s spectrum is followed through its lens, air, surface, water, glass, rock and sand at the levels that run, and corrected by your readings where there are any. A flash of ripples is not in it.',
    sure: AS_LIGHT,
    light: true,
  },
  {
    name: 'mol a day (DLI)',
    also: 'dli dose daily light integral',
    seen: /\d mol\b|mol today|mol a day|\bDLI\b/,
    units: /(?<!µ)mol|^[\d\s.,–-]+$/,
    means:
      'All the light that falls on a place in one day, mol m⁻² d⁻¹. A steady 200 µmol for ten hours is 7.2 mol; ramps give less.',
    how: 'The day’s curve of µmol is summed over 24 hours, ramps and all.',
    sure: AS_LIGHT,
    light: true,
  },
  {
    name: '× what it is used to',
    also: 'step ratio accustomed acclimation ease',
    seen: /× what|used to\b/,
    units: /×/,
    means:
      'How many times the light that the coral has grown used to in the last weeks: over the whole day or at the peak, whichever is larger. Light counts as the coral takes it: at equal PAR blue counts up to half as much again as white. 1.00 × is no change. Above the most you allow at a time, usually 1.3 ×, ease it in.',
    how: 'What it is used to follows, day by day, what ran here: a coral grows used to more light in about 10 days, to less in about 7, macroalgae in 4 and 3 (rule of thumb; published for corals: 5 to 20).',
    sure: 'Better known than the µmol: what both lights share, such as the same lamp and meter, cancels. Where another lamp comes, it can be 0.6 to 1.7 times as much.',
    light: true,
  },
  {
    name: '± and “perhaps”',
    also: 'band doubt estimate uncertainty',
    seen: /±|perhaps/i,
    units: /±/,
    means:
      'How far a figure may be off: nine times in ten the truth should lie within, if lamp, water and glass are about as described. “Perhaps” means that it may also be right. Readings with a meter make this smaller.',
    how: 'From what usually differs in a home (lamp, height, lens, water, panes, meter), narrowed by your readings. Checked against made-up tanks: about 9 of 10 places lay within.',
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
    units: /%/,
    how: 'As it was typed in, in the lamp’s own steps.',
    sure: 'What is typed is exact; some lamps give a little more than half at half.',
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
    seen: /\bPUR\b|[Uu]sable/,
    units: /%/,
    means:
      'What feeds the algae in a coral, over PAR: intact tissue takes half of most lights, more of blue than of green. Near UV feeds too and is no PAR.',
    how: 'Absorptance of tissue from published pigment spectra (Enríquez et al. 2005), over photons from 400 to 700 nm.',
    sure: 'To about a tenth between species (rule of thumb); better between two lights.',
  },
  {
    name: 'Glow',
    also: 'fluorescence pop proteins',
    seen: /\bglow/i,
    units: /%/,
    means:
      'The share of a coral’s light that it gives off itself, because its proteins turn blue and violet into other colours.',
    how: 'Each protein takes in light by its excitation spectrum and gives it off by its emission spectrum; what leaves is weighed as the eye does.',
    sure: 'Known in order, not in figures: proteins differ from piece to piece.',
  },
  {
    name: 'Spread of colours',
    also: 'variety cam16',
    seen: /spread|CAM16/i,
    units: /^[\d\s.,–-]+$/,
    means:
      'How different the corals’ colours look under a light. A difference below 1 is not seen; about 20 is a colourful tank (rule of thumb).',
    how: 'The mean distance of the corals’ colours from their middle in CIECAM16 (CAM16-UCS), 2° observer.',
    sure: 'As sure as the corals’ described colours are.',
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
  {
    name: 'Lux for each µmol',
    also: 'lux factor conversion meter photopic',
    seen: /[Ll]ux (per|for each) µmol/,
    units: /^[\d\s.,–-]+$|lux/,
    means:
      'How many lux a lux meter shows for each µmol of this light. It differs with the mix: blue gives few lux.',
    how: 'The light’s spectrum weighed by the eye’s sensitivity V(λ) (CIE 1931), over its photons from 400 to 700 nm.',
    sure: 'To a few percent for an ideal meter (rule of thumb); low-cost ones err more under blue.',
  },
  {
    name: 'Lux and klux',
    also: 'brightness illuminance bright eye',
    seen: /\bk?lux\b/,
    units: /lux/,
    means: 'How bright the light is to a human eye. Corals do not see it so: blue looks dim and feeds well.',
    how: 'The spectrum at that place weighed by V(λ) (CIE 1931), 683 lm per watt. 1 klux is 1000 lux.',
    sure: AS_LIGHT,
    light: true,
  },
  {
    name: 'Kelvin, hue and “pure”',
    also: 'cct colour temperature tint k duv purity',
    seen: /\d K\b|kelvin|% pure/,
    units: /K$|%/,
    means:
      'The tint of the light itself. Kelvin is said where the light is near white; else its hue, and how far from white it lies: 0 % is white, 100 % a single wavelength.',
    how: 'Nearest point of the Planckian locus in CIE 1960 (Ohno 2013); hue and purity in CIE 1931, from the equal-energy point.',
    sure: 'To some hundred kelvin if the lamp’s colours are as described (rule of thumb).',
  },
  {
    name: 'Above saturation, feeds, beyond use',
    also: 'saturation ek photoinhibition yield excess hours response',
    seen: /saturat|of its light feeds|beyond (its )?use/,
    units: /h$|min$|%|(?<!µ)mol|^[\d\s.,–-]+$/,
    means:
      'Above saturation: hours in which more light feeds the coral hardly more. Feeds: the share of the day’s light that it can use. Beyond use: light that it has to get rid of.',
    how: 'A light curve of its kind that follows what it is used to (Platt et al. 1980), over the whole day.',
    sure: 'A range, from how far published curves of its kind lie apart. Good for comparing days of one coral, never as growth.',
    light: true,
  },
  {
    name: 'Watts and kWh',
    also: 'power energy cost electricity price wall',
    seen: /\d\.?\d* k?Wh?\b/,
    units: /W/,
    means: 'What the lamps take from the wall: now and at most in watts, over the day in kWh.',
    how: 'From what is described of the emitters at their levels, with a driver of 88 % (rule of thumb).',
    sure: 'To about a fifth (rule of thumb); a plug-in meter knows better.',
  },
  {
    name: 'Wanted light',
    also: 'need range low high peak right too much little',
    seen: /\bwant(s|ed)?\b|peak right|▲|▽|○/,
    units: /[▲▽○]|µmol|^[\d\s.,–-]+$/,
    means:
      'What a coral of this kind does well in at its brightest hour, µmol. ○ within it, ▽ less, ▲ more than that. You can set another range for each coral.',
    how: 'Ranges by kind (rule of thumb); what you set yourself comes first.',
    sure: 'Corals get used to much else; the light they stand in and do well in is right.',
  },
  {
    name: 'Evenness',
    also: 'uniformity hot cold spots spread standard deviation blend coefficient',
    seen: /[Ee]venness|[Uu]niformity|Standard deviation|half of the cells|beyond ± 25|angle of a cell/,
    means:
      'How alike the light is over one layer of the water: the darkest place over the mean, how far cells scatter, hot and cold cells, and how far their mixes turn from the layer’s.',
    how: 'From the chart’s cells of that layer, rock left out.',
    sure: 'Better known than the µmol: what all cells share cancels.',
    light: true,
  },
  {
    name: 'Light by sides, ripples',
    also: 'flank underside flash shade self scalar wave',
    seen: /from above|ripples/,
    means:
      'How much light the parts of a coral get for what falls on it from above; and what the surface’s waves bring now and then.',
    how: 'Light is followed from all sides to the form of the coral; ripples from the waves that your pumps make (rule of thumb).',
    sure: 'To about a third, as forms and waves differ (rule of thumb).',
    light: true,
  },
  {
    name: 'Stops',
    also: 'brighter darker photograph exposure',
    seen: /\bstops?\b/,
    units: /stop/,
    means: 'Twice as bright is one stop more, half as bright one stop less.',
    how: 'From the luminance of the drawn parts against the rock’s.',
    sure: 'To about half a stop (rule of thumb).',
  },
  {
    name: 'nm',
    also: 'wavelength band breadth peak',
    seen: /\d nm\b/,
    units: /nm/,
    means:
      'Wavelength of light: violet about 415, royal blue 450, green 530, red 660 nm. As a breadth: how far a light spreads.',
    how: 'From the described emitters; bands are those of the product’s list.',
    sure: 'Emitters of one kind differ by about 5 nm (rule of thumb).',
  },
  {
    name: 'Share of PAR, match',
    also: 'percent photons band white match near mix',
    seen: /(most|least|about) \d+ % of PAR|of PAR from|of photons|[Mm]atch(es)?\b|as near/,
    units: /%/,
    means:
      'A share counts photons from 400 to 700 nm. A match of 100 % is the same spectrum at equal PAR; near 0 % they have little in common.',
    how: 'From the spectra, nm by nm; a match is 1 less their distance over the wanted light’s size.',
    sure: 'To a few percent if the lamps are as described (rule of thumb).',
  },
  {
    name: 'Colour difference',
    also: 'delta e photograph ciede line',
    seen: /ΔE/,
    units: /^[\d\s.,–-]+$/,
    means: 'How far two colours lie apart: 1 is just seen side by side, 10 plain at a glance.',
    how: 'CIEDE2000 between patches of pictures, with the white card as the reference.',
    sure: 'Pictures of one camera at the same light agree to about 2 to 4; a line over time says its own doubt.',
  },
  {
    name: 'Growth, and chance',
    also: 'experiment percent a month confidence p permutation points',
    seen: /% a month|points a month|[Cc]hance|such experiments/,
    units: /%|^[+−\d\s.,–-]+|in$/,
    means:
      'How much of its mass a piece gains in a month; the difference of two lights with the range that would hold in 95 of 100 such experiments, and how often chance alone would give as much.',
    how: 'ln(end / start) over the days, for each piece; the range after Welch (1947), chance by dealing the pieces out anew.',
    sure: 'As sure as its range says: few pieces, wide range.',
  },
  {
    name: 'Nutrients taken out',
    also: 'nitrate phosphate nitrogen phosphorus harvest ppm grams dry',
    seen: /ppm|nitrogen|phosphorus|drained|[Hh]arvest/,
    units: /g\b|ppm|%|ml/,
    means:
      'What algae take out of the water when harvested, or what a test found in it; 1 ppm is 1 mg per litre.',
    how: 'Of drained weight 8 to 15 % is dry, of that 2 to 4 % nitrogen and 0.1 to 0.3 % phosphorus (literature).',
    sure: 'A range: from all of these at their lowest to all at their highest.',
  },
  {
    name: 'Odds of a cause',
    also: 'probability likely fault suspects proof',
    seen: /\bodds\b|in 100\b|likel/,
    units: /%|^[\d\s.,–-]+/,
    means: 'How probable each cause is among those that are thought of, given your readings.',
    how: 'By Bayes’ rule from how well each cause explains them and how often it happens (rule of thumb).',
    sure: 'A cause nobody thought of is not among them.',
  },
  {
    name: 'Hours lit',
    also: 'photoperiod length lit dark overlap',
    seen: /\b[Ll]it\b|[Hh]ours/,
    units: /h$|min$/,
    means: 'Time in which anything of a lamp gives light at that place, moonlight left out.',
    how: 'From the day as it runs, to the minute.',
    sure: 'Exact for what the lamp was told; lamps’ clocks run off by minutes a month.',
  },
  {
    name: 'Level',
    also: 'percent channel strength of full',
    seen: /as strong|strength|\blevels?\b/,
    units: /%|×/,
    means:
      'Percent of what a colour of the lamp gives at full: what is typed into the lamp, in its own steps, before the cap.',
    how: 'The lamp’s dimming curve then says how much light that is.',
    sure: 'What is typed is exact; what it gives is as sure as the lamp’s description.',
  },
  {
    name: 'Gain of a colour, of a lamp',
    also: 'calibration factor correction readings fit',
    seen: /description says|Times what the lamp|[Gg]ains?\b/,
    units: /×|±|^[\d\s.,–-]+$/,
    means:
      'How many times the light that the lamp’s description promises the readings say a colour or a lamp gives.',
    how: 'The most likely values under your readings and what is usual in homes (damped least squares with heavy tails).',
    sure: 'Its ± is one standard error; a colour never read alone keeps most of its doubt.',
  },
  {
    name: 'Percent of a whole',
    also: 'share part of',
    seen: /%/,
    units: /%/,
    means: 'So many in a hundred of what is named beside it.',
    how: 'Counted or computed from the figures on the same page.',
    sure: 'As sure as those are.',
    general: true,
  },
  {
    name: 'Times as much',
    also: 'ratio factor',
    seen: /×/,
    units: /×/,
    means: 'How many times what is named beside it: 1.00 × is the same.',
    how: 'One figure of the page over the other.',
    sure: 'Better known than either, where both share the same lamp and water.',
    general: true,
  },
];
