import { lazy } from 'react';

export { Approval, useApprovals } from './Approval.tsx';
export { LayoutPicture } from './LayoutPicture.tsx';

/** Fetched when it is opened. */
export const PublishDialog = lazy(() => import('./PublishDialog.tsx').then((module) => ({ default: module.PublishDialog })));
