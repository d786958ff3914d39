export * from './allSheets';
