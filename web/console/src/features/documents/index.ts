import { lazy } from 'react';

export { PartHead } from './PartHead.tsx';
export { arrived, useDocument } from './useDocument.ts';
export { WhereUsed } from './WhereUsed.tsx';

/** Fetched when it is opened. */
export const AddField = lazy(() => import('./AddField.tsx').then((module) => ({ default: module.AddField })));
