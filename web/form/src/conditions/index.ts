export { evaluate } from './evaluate.ts';
export { Duration, Failure, Moment, type Value } from './values.ts';
export { matches, type PatternStep } from '../patterns/pattern.ts';
