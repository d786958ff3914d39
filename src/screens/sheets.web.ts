import type { Asked } from '@/state/finding';
import { part } from '@/ui/part';

const sheets = () => import('./allSheets');
export const CensusSheet = part(async () => (await sheets()).CensusSheet);
export const EntrySheet = part(async () => (await sheets()).EntrySheet);
export const Find = part(async () => (await sheets()).Find);
export const WhatIs = part(async () => (await sheets()).WhatIs);
/** Whether anything can be said of a figure. */
export const isTold = async (asked: Asked): Promise<boolean> => (await sheets()).isTold(asked);
export const HungLampSheet = part(async () => (await sheets()).HungLampSheet);
export const Keys = part(async () => (await sheets()).Keys);
export const LampKindSheet = part(async () => (await sheets()).LampKindSheet);
export const NewGroupSheet = part(async () => (await sheets()).NewGroupSheet);
export const PlanSheet = part(async () => (await sheets()).PlanSheet);
export const PlateDetail = part(async () => (await sheets()).PlateDetail);
export const SignSheet = part(async () => (await sheets()).SignSheet);
export const SpotSheet = part(async () => (await sheets()).SpotSheet);
export const GiveSheet = part(async () => (await import('./plates/part')).GiveSheet);
const causes = () => import('./log/causes');
export const Foretold = part(async () => (await causes()).Foretold);
export const Shown = part(async () => (await causes()).Shown);
export const Triage = part(async () => (await causes()).Triage);
export const Start = part(async () => (await sheets()).Start);
