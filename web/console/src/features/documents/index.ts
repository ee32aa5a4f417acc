import { lazy } from 'react';

export { PartHead } from './PartHead.tsx';
export { arrived, useDocument } from './useDocument.ts';
export { PatternSamples, usePatternTrial } from './PatternSamples.tsx';
export { UseList } from './UseList.tsx';

/** Fetched when it is opened. */
export const AddField = lazy(() => import('./AddField.tsx').then((module) => ({ default: module.AddField })));
export const ChoicesDialog = lazy(() => import('./ChoicesDialog.tsx').then((module) => ({ default: module.ChoicesDialog })));
export const AddFields = lazy(() => import('./AddFields.tsx').then((module) => ({ default: module.AddFields })));
