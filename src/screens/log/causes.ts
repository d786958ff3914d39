/** What looks back over weeks comes as one part: causes before a sign, what came of a change, what a coral has shown. */
export { Shown } from '../case/Shown';
export { Foretold } from './Foretold';
export { Triage } from './Triage';
