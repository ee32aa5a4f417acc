import type { ComponentType } from 'react';
import { feature, type Feature } from '../runtime/App.ts';
import type { Parts } from '../runtime/parts.ts';
import { loadTexts } from '../shell/configurator/texts.ts';
import { island } from '../shell/island.ts';
import { may, readsDrafts, session } from '../shell/session.ts';
import type { Session } from '../api/client.ts';

const administers = (session: Session) => may(session, 'administer');
const anybody = () => true;

/** A page whose component is fetched when it is opened. */
const fetched =
  <Props extends object>(load: () => Promise<ComponentType<Props>>) =>
  (props: Props, waiting?: string) =>
    island(load, props, waiting);

/** A page of the configurator: its texts are fetched with it, in the language of whoever opens it. */
const configuring = <Props extends object>(load: () => Promise<ComponentType<Props>>) =>
  fetched(async () => {
    const [component] = await Promise.all([load(), loadTexts(session().language)]);
    return component;
  });

/** The pages of those who configure and administer, by the first part of their address; each is fetched when it is opened. */
export const features: Readonly<Record<string, Feature>> = {
  design: feature({
    allows: readsDrafts,
    open: configuring(() => import('./designer/index.ts').then((module) => module.Designer)),
    key: ([, layout]) => layout && `design ${layout}`,
    props: ({ place: [, layout, section, id = '', at] }) => ({
      layoutKey: layout!,
      section,
      record: section === 'record' && /^[0-9]{1,15}$/.test(id) ? Number(id) : undefined,
      at: section === 'record' ? at : undefined,
    }),
    whole: true,
  }),
  layouts: feature({
    allows: readsDrafts,
    open: configuring(() => import('./releases/LayoutsPage.tsx').then((module) => module.LayoutsPage)),
    key: () => 'layouts',
    props: ({ entities }) => ({ entities }),
  }),
  data: feature({
    allows: readsDrafts,
    open: configuring(() => import('./data/DataPage.tsx').then((module) => module.DataPage)),
    key: ([, part, entity]) => `data ${part ?? ''} ${entity ?? ''}`,
    props: ({ place: [, part, entity], entities }) => ({ part, entity, entities }),
  }),
  application: feature({
    allows: readsDrafts,
    open: configuring(() => import('./application/ApplicationPage.tsx').then((module) => module.ApplicationPage)),
    key: () => 'application',
    props: ({ place: [, part], entities }) => ({ part, entities }),
  }),
  releases: feature({
    allows: readsDrafts,
    open: configuring(() => import('./releases/Releases.tsx').then((module) => module.Releases)),
    key: ([, part]) => `releases ${part === 'holders' ? part : ''}`,
    props: ({ place: [, kind, name] }) => ({ holders: kind === 'holders', about: kind && name ? { kind, name } : undefined }),
  }),
  people: feature({
    allows: administers,
    open: configuring(() => import('./people/PeoplePage.tsx').then((module) => module.PeoplePage)),
    key: () => 'people',
    props: () => ({}),
  }),
  audit: feature({
    allows: administers,
    open: configuring(() => import('./people/AuditPage.tsx').then((module) => module.AuditPage)),
    key: () => 'audit',
    props: () => ({}),
  }),
  account: feature({
    allows: anybody,
    open: fetched(() => import('./people/AccountPage.tsx').then((module) => module.AccountPage)),
    key: () => 'account',
    props: () => ({}),
  }),
};

/** What the running part asks for, fetched and drawn when it does. */
export const parts: Parts = {
  signIn: fetched(() => import('./people/SignIn.tsx').then((module) => module.SignIn)),
  home: fetched(async () => {
    const [{ HomePage }, { createElement, lazy }] = await Promise.all([import('./records/HomePage.tsx'), import('react')]);
    // Who changes no forms fetches nothing of it.
    const WaitingDrafts = lazy(async () => {
      const [module] = await Promise.all([import('./releases/WaitingDrafts.tsx'), loadTexts(session().language)]);
      return { default: module.WaitingDrafts };
    });
    return (props: Omit<Parameters<typeof HomePage>[0], 'WaitingDrafts'>) => createElement(HomePage, { ...props, WaitingDrafts });
  }),
  list: fetched(() => import('./records/ListPage.tsx').then((module) => module.ListPage)),
  print: fetched(() => import('./records/PrintPage.tsx').then((module) => module.PrintPage)),
  comments: fetched(() => import('./records/RecordComments.tsx').then((module) => module.RecordComments)),
  conflict: fetched(() => import('./records/Conflict.tsx').then((module) => module.Conflict)),
  sideSheet: fetched(() => import('./records/SideSheet.tsx').then((module) => module.SideSheet)),
};
