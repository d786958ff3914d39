/** Sheets and pages in which much is typed and that several places open: one part, fetched when the first of them opens (on the web). */
export { HungLampSheet } from './case/HungLampSheet';
export { SpotSheet } from './case/SpotSheet';
export { LampKindSheet, NewGroupSheet } from './case/LampKindSheet';
export { CensusSheet } from './lamps/CensusSheet';
export { PlanSheet } from './ease/PlanSheet';
export { EntrySheet } from './log/EntrySheet';
export { SignSheet } from './log/SignSheet';
export { PlateDetail } from './plates/PlateDetail';
export { Find } from './shell/Find';
export { isTold, WhatIs } from './shell/WhatIs';
export { Keys } from './shell/Keys';
export { Start } from './start/Start';
