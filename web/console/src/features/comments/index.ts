import { lazy } from 'react';

export { useComments } from './useComments.ts';

/** Fetched when it is opened. */
export const CommentsPane = lazy(() => import('./CommentsPane.tsx').then((module) => ({ default: module.CommentsPane })));
