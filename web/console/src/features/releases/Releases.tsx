import type { ComponentProps } from 'react';
import { HoldersPage } from './HoldersPage.tsx';
import { ReleasesPage } from './ReleasesPage.tsx';

/** The releases, or who has which. */
export const Releases = ({ holders, about }: { holders: boolean } & ComponentProps<typeof ReleasesPage>) =>
  holders ? <HoldersPage /> : <ReleasesPage about={about} />;
