import { feature, type Feature } from '../runtime/App.ts';
import { may, readsDrafts } from '../shell/session.ts';
import type { Session } from '../api/client.ts';

const administers = (session: Session) => may(session, 'administer');
const anybody = () => true;

/** The pages of those who configure and administer, by the first part of their address; each is fetched when it is opened. */
export const features: Readonly<Record<string, Feature>> = {
  design: feature({
    allows: readsDrafts,
    load: () => import('./designer/index.ts').then((module) => module.Designer),
    key: ([, layout]) => layout && `design ${layout}`,
    props: ({ place: [, layout, section, id = ''] }) => ({
      layoutKey: layout!,
      section,
      record: section === 'record' && /^[0-9]{1,15}$/.test(id) ? Number(id) : undefined,
    }),
    whole: true,
    waiting: 'Opening the designer…',
  }),
  layouts: feature({
    allows: readsDrafts,
    load: () => import('./releases/LayoutsPage.tsx').then((module) => module.LayoutsPage),
    key: () => 'layouts',
    props: ({ entities }) => ({ entities }),
  }),
  application: feature({
    allows: readsDrafts,
    load: () => import('./application/ApplicationPage.tsx').then((module) => module.ApplicationPage),
    key: () => 'application',
    props: ({ place: [, part], entities }) => ({ part, entities }),
  }),
  releases: feature({
    allows: readsDrafts,
    load: () => import('./releases/ReleasesPage.tsx').then((module) => module.ReleasesPage),
    key: () => 'releases',
    props: ({ place: [, kind, name] }) => ({ about: kind && name ? { kind, name } : undefined }),
  }),
  people: feature({
    allows: administers,
    load: () => import('./people/PeoplePage.tsx').then((module) => module.PeoplePage),
    key: () => 'people',
    props: () => ({}),
  }),
  audit: feature({
    allows: administers,
    load: () => import('./people/AuditPage.tsx').then((module) => module.AuditPage),
    key: () => 'audit',
    props: () => ({}),
  }),
  account: feature({
    allows: anybody,
    load: () => import('./people/AccountPage.tsx').then((module) => module.AccountPage),
    key: () => 'account',
    props: () => ({}),
  }),
};
