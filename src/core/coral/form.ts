import * as v from 'valibot';

import { id, list, name, share } from '../shape/shape';
import { CHROMO_IDS, PROTEIN_IDS } from './pigments';

const regionSchema = v.object({
  id,
  name,
  /** how pale skeleton and tissue are by themselves: reflectance without any pigment */
  pale: share,
  /** how many symbionts: 0 = bleached, 1 = very brown */
  brown: share,
  /** amounts of chromoproteins and of fluorescent families by id */
  chromo: v.record(v.picklist(CHROMO_IDS, `is one of ${CHROMO_IDS.join(', ')}`), share),
  proteins: v.record(v.picklist(PROTEIN_IDS, `is one of ${PROTEIN_IDS.join(', ')}`), share),
});
/** A part of a coral with a colour of its own: tips or rim, body, polyps. Amounts are 0..1. */
export type Region = v.InferOutput<typeof regionSchema>;

export const SHAPE_IDS = [
  'branch',
  'table',
  'plate',
  'crust',
  'brain',
  'cup',
  'polyps',
  'disc',
  'leather',
  'tentacles',
  'clam',
  'anemone',
] as const;
export const formSchema = v.object({
  id,
  name,
  shape: v.picklist(SHAPE_IDS, 'is no shape known here'),
  regions: v.pipe(list(regionSchema, 1), v.maxLength(6, 'at most 6 regions')),
});
/** What a coral is made of, never what colour it has: colour is computed from its pigments under the light of the moment. */
export type CoralForm = v.InferOutput<typeof formSchema>;
export type ShapeId = CoralForm['shape'];

const region = (id: string, name: string, rest: Partial<Omit<Region, 'id' | 'name'>>): Region => ({
  id,
  name,
  pale: 0.45,
  brown: 0.35,
  chromo: {},
  proteins: {},
  ...rest,
});
const form = (id: string, name: string, shape: ShapeId, ...regions: Region[]): CoralForm => ({
  id,
  name,
  shape,
  regions,
});

/** Generic colour forms, invented; amounts are a rule of thumb. */
export const FORMS: readonly CoralForm[] = [
  form(
    'green-tip-branch',
    'Green-tipped branch',
    'branch',
    region('tips', 'tips', { brown: 0.12, proteins: { green: 0.8 } }),
    region('body', 'body', { brown: 0.45, proteins: { green: 0.12 } }),
    region('polyps', 'polyps', { brown: 0.25, proteins: { shortGreen: 0.4 } }),
  ),
  form(
    'blue-pink-branch',
    'Blue branch, pink tips',
    'branch',
    region('tips', 'tips', { brown: 0.08, chromo: { pink: 0.5 }, proteins: { red: 0.25 } }),
    region('body', 'body', { brown: 0.18, chromo: { blue: 0.6 }, proteins: { cyan: 0.4 } }),
    region('polyps', 'polyps', { brown: 0.2, proteins: { cyan: 0.3 } }),
  ),
  form(
    'orange-plate',
    'Orange plate',
    'plate',
    region('rim', 'rim', { brown: 0.1, proteins: { yellow: 0.6 } }),
    region('body', 'body', { brown: 0.3, proteins: { orange: 0.8 } }),
    region('polyps', 'polyps', { brown: 0.35, proteins: { shortGreen: 0.3 } }),
  ),
  form(
    'orange-table',
    'Orange table',
    'table',
    region('rim', 'rim', { brown: 0.1, proteins: { yellow: 0.6 } }),
    region('body', 'body', { brown: 0.3, proteins: { orange: 0.8 } }),
    region('polyps', 'polyps', { brown: 0.35, proteins: { shortGreen: 0.3 } }),
  ),
  form(
    'teal-plate',
    'Teal plate, orange eyes',
    'plate',
    region('rim', 'rim', { brown: 0.1, proteins: { cyan: 0.6 } }),
    region('body', 'body', { brown: 0.25, proteins: { shortGreen: 0.7, cyan: 0.35 } }),
    region('polyps', 'eyes', { brown: 0.2, proteins: { orange: 0.7 } }),
  ),
  form(
    'red-crust',
    'Red encruster, green polyps',
    'crust',
    region('body', 'body', { brown: 0.3, chromo: { pink: 0.25 }, proteins: { red: 0.85 } }),
    region('polyps', 'polyps', { brown: 0.2, proteins: { green: 0.75 } }),
  ),
  form(
    'brown-green-brain',
    'Brown-and-green brain',
    'brain',
    region('ridges', 'ridges', { brown: 0.7, proteins: { orange: 0.1 } }),
    region('valleys', 'valleys', { brown: 0.25, proteins: { green: 0.85 } }),
  ),
  form(
    'purple-table',
    'Purple table',
    'table',
    region('rim', 'growing rim', { brown: 0.08, chromo: { purple: 0.25 }, proteins: { cyan: 0.2 } }),
    region('body', 'body', { brown: 0.28, chromo: { purple: 0.8 } }),
    region('polyps', 'polyps', { brown: 0.3, proteins: { shortGreen: 0.35 } }),
  ),
  form(
    'yellow-polyps',
    'Yellow polyps',
    'polyps',
    region('tentacles', 'tentacles', { brown: 0.15, proteins: { yellow: 0.85 } }),
    region('mouth', 'mouth', { brown: 0.5, proteins: { green: 0.2 } }),
  ),
  form(
    'teal-cup',
    'Teal cup coral, orange eyes',
    'cup',
    region('body', 'body', { brown: 0.25, proteins: { shortGreen: 0.7, cyan: 0.35 } }),
    region('rim', 'rim', { brown: 0.1, proteins: { cyan: 0.6 } }),
    region('polyps', 'eyes', { brown: 0.2, proteins: { orange: 0.7 } }),
  ),
  form(
    'many-zones',
    'Disc of many zones',
    'disc',
    region('rim', 'rim', { brown: 0.15, proteins: { green: 0.7 } }),
    region('ring', 'ring', { brown: 0.25, chromo: { purple: 0.35 }, proteins: { red: 0.55 } }),
    region('centre', 'centre', { brown: 0.2, proteins: { yellow: 0.6 } }),
  ),
  form(
    'cream-branch',
    'Cream branch, blue polyps',
    'branch',
    region('tips', 'tips', { brown: 0.03, pale: 0.7 }),
    region('body', 'body', { brown: 0.14, pale: 0.62 }),
    region('polyps', 'polyps', { brown: 0.1, proteins: { cyan: 0.7 } }),
  ),
  form(
    'blue-staves',
    'Blue staves',
    'branch',
    region('tips', 'tips', { brown: 0.05, chromo: { blue: 0.3 }, proteins: { cyan: 0.5 } }),
    region('body', 'body', { brown: 0.2, chromo: { blue: 0.85 } }),
    region('polyps', 'polyps', { brown: 0.25 }),
  ),
  form(
    'brown-leather',
    'Brown leather',
    'leather',
    region('cap', 'cap', { brown: 0.6, pale: 0.5 }),
    region('stalk', 'stalk', { brown: 0.25, pale: 0.55 }),
    region('polyps', 'polyps', { brown: 0.4, proteins: { shortGreen: 0.15 } }),
  ),
  form(
    'long-tentacles',
    'Long tentacles, pale tips',
    'tentacles',
    region('tips', 'tips', { brown: 0.05, proteins: { cyan: 0.35, shortGreen: 0.3 } }),
    region('body', 'tentacles', { brown: 0.5, proteins: { green: 0.3 } }),
    region('stalk', 'skeleton', { brown: 0.15, pale: 0.6 }),
  ),
  form(
    'red-disc',
    'Deep red disc',
    'disc',
    region('rim', 'rim', { brown: 0.35, chromo: { pink: 0.3 }, proteins: { red: 0.45 } }),
    region('ring', 'ring', { brown: 0.45, chromo: { pink: 0.5 }, proteins: { red: 0.8 } }),
    region('centre', 'centre', { brown: 0.35, proteins: { orange: 0.35 } }),
  ),
  form(
    'spotted-clam',
    'Clam, blue edge, spotted mantle',
    'clam',
    region('mantle', 'mantle', { brown: 0.4, chromo: { purple: 0.25 }, proteins: { shortGreen: 0.3 } }),
    region('edge', 'edge', { brown: 0.1, pale: 0.5, chromo: { blue: 0.7 }, proteins: { cyan: 0.35 } }),
    region('shell', 'shell', { brown: 0.05, pale: 0.6 }),
  ),
  form(
    'bulb-anemone',
    'Anemone with bulbed tips',
    'anemone',
    region('tips', 'tips', { brown: 0.12, chromo: { pink: 0.3 }, proteins: { shortGreen: 0.35 } }),
    region('tentacles', 'tentacles', { brown: 0.4, proteins: { green: 0.4 } }),
    region('foot', 'foot', { brown: 0.2, proteins: { red: 0.4 } }),
  ),
  form(
    'turning-brain',
    'Brain that turns from green to red',
    'brain',
    region('ridges', 'ridges', { brown: 0.35, proteins: { converted: 0.6, green: 0.25 } }),
    region('valleys', 'valleys', { brown: 0.3, proteins: { green: 0.7, converted: 0.15 } }),
  ),
];
export const libraryForm = (id: string): CoralForm | undefined => FORMS.find((f) => f.id === id);
