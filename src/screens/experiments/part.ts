/** What reckons with chance comes as one part: experiments, and their answers on a report. */
export { Experiments } from './Experiments';
export { LogPrint } from './LogPrint';
