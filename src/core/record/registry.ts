import { caseKind } from './caseDoc';
import { historyKind } from './history';
import { logDocKind } from './log';
import { readingsKind } from './readings';

/**
 * The documents a case is kept in: what is undone together, written together, exported together. A kind that is added here is
 * loaded, saved, checked, set aside, exported, imported and removed with the rest.
 */
export const DOCUMENTS = {
  case: caseKind,
  history: historyKind,
  readings: readingsKind,
  log: logDocKind,
} as const;
