import { lazy } from 'react';

export { CommentForm } from './CommentForm.tsx';
export { useComments } from './useComments.ts';

/** Fetched when it is opened. */
export const CommentsPane = lazy(() => import('./CommentsPane.tsx').then((module) => ({ default: module.CommentsPane })));
