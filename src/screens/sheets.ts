export * from './allSheets';
export * from './log/causes';
