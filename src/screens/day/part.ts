/** The day and what is made of it come as one part. */
export { Around } from './Around';
export { CarryPage } from './Carry';
export { Day } from './Day';
export { FitPage } from './Fit';
export { Patterns } from './Patterns';
export { Schools } from './schools/Schools';
