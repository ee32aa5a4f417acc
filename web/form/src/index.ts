export * from './types.ts';
export { FormStore } from './store.ts';
export { contentOf, pageOf } from './content.ts';
export { Icon } from './Icon.tsx';
export { ErrorSummary, focusField, Form, share } from './Form.tsx';
export { evaluate, Failure, Moment } from './conditions/index.ts';
export { check, display, filled, fromLocal, parseNumber, toLocal } from './values.ts';
export { allTexts, isRightToLeft, say } from './texts.ts';
