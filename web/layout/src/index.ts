/**
 * The tree of a layout: edits applied, changes laid over, ids, spans, placing, operations. Knows no page and no service; the core does the
 * same (tests/vectors).
 */
export * from './apply.ts';
export { limits } from './grammar.gen.ts';
export { freshId } from './ids.ts';
export * from './operations.ts';
export * from './overrides.ts';
export * from './placement.ts';
export { mostUnits, unitsOf, cellOf, widen } from './spans.ts';
export * from './tree.ts';
