import { befell } from './befell';
import { carbon } from './carbon';
import { care } from './care';
import { chore } from './chore';
import { foretold } from './foretold';
import { harvest } from './harvest';
import { lens } from './lens';
import { moved } from './moved';
import { note } from './note';
import { outage } from './outage';
import { photo } from './photo';
import { sign } from './sign';
import { test } from './test';
import { width } from './width';

/** The kinds of entries of a log, in the order in which the keeper is offered them. */
export const LOG_KINDS = [
  sign,
  test,
  care,
  befell,
  note,
  carbon,
  lens,
  outage,
  harvest,
  moved,
  width,
  chore,
  foretold,
  photo,
] as const;
