/** What looks back over weeks comes as one part: causes before a sign, and what a coral has shown. */
export { Shown } from '../case/Shown';
export { Triage } from './Triage';
