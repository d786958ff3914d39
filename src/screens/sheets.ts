export * from './allSheets';
export * from './log/causes';
export { GiveSheet } from './given/GiveSheet';
