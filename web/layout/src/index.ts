/**
 * The tree of a layout: edits applied, changes laid over, ids, spans, placing, operations. Knows no page and no service; the core does the
 * same (tests/vectors).
 */
export * from './apply.ts';
export * from './binding.ts';
export { firstEditors, limits } from './grammar.gen.ts';
export { freshId, withIds } from './ids.ts';
export * from './operations.ts';
export * from './overrides.ts';
export * from './placement.ts';
export * from './places.ts';
export * from './removal.ts';
export * from './rooms.ts';
export * from './rowRoom.ts';
export { mostUnits, share, unitsOf, cellOf, widen } from './spans.ts';
export * from './step.ts';
export * from './subject.ts';
export * from './tree.ts';
