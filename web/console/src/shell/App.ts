import { isRightToLeft, make, place, themed } from '#form';
import type { ComponentType } from 'react';
import { answer, api, type CommentInfo, type EntitySummary, type Session } from '../api/client.ts';
import { carried, expectsSomebody } from '../api/early.ts';
import { prepare } from '../runtime/preparedRecord.ts';
import { RecordPage } from '../runtime/RecordPage.ts';
import { forgetPerson, withhold } from '../runtime/unsaved.ts';
import { hasDrawn, onHappening, startEvents } from './events.ts';
import { island } from './island.ts';
import { here, leaveAll, onPlace } from './location.ts';
import { Menu } from './Menu.ts';
import { enter, may, readsDrafts, session } from './session.ts';
import { words } from './words.ts';

/** What stands where one is: drawn again with what has become known, closed when one goes elsewhere. */
interface Shown {
  element: HTMLElement;
  show?: () => void;
  close: () => void;
}

/** What is to stand at a place, and by what it is known to stand there already. */
interface Part {
  key: string;
  make: () => Shown;
}

/** The console: who works here, the menu, and what stands at the place one is at. */
export class App {
  private entities: EntitySummary[] = [];
  private mentions: CommentInfo[] = [];
  private menu: Menu | undefined;
  private readonly content = make('main', { class: 'page', id: 'content', tabindex: -1 });
  private shown: { key: string; part: Shown } | undefined;

  constructor(private readonly root: HTMLElement) {
    onPlace(() => this.draw());
    onHappening((happening) => {
      if (happening.type === 'comment') this.lookAtMentions();
      // Where no form or list stands there is nothing to draw anew; elsewhere those say so themselves.
      if (happening.data.release !== undefined && !['records', 'print'].includes(here()[0] ?? '')) hasDrawn(happening.data.release);
      // The theme goes out with a release, for what stands around the forms too.
      if (happening.type === 'release') answer(api.GET('/api/session')).then((found) => themed(document.documentElement, found.application.theme), () => undefined);
      // Other roles, another language: everything open follows.
      if (happening.type === 'person' && happening.data.person === session().person?.id) void this.look();
    });
    if (expectsSomebody()) void prepare(here()).then(() => this.look());
    else void this.look();
  }

  private look(): Promise<void> {
    const here = carried('/api/session');
    return (here ? Promise.resolve(here.body as Session) : answer(api.GET('/api/session'))).then((found) => this.enter(found), (error: Error) => {
      this.root.replaceChildren(make('main', { class: 'page' }, make('p', { class: 'notice', role: 'alert' }, error.message)));
    });
  }

  private enter(found: Session): void {
    enter(found);
    document.title = found.application.title;
    themed(document.documentElement, found.application.theme);
    if (found.person) {
      this.draw();
      whenIdle(() => {
        startEvents();
        void withhold(found.person!.id);
        answer(api.GET('/api/entities')).then((entities) => { this.entities = entities; this.draw(); }, () => undefined);
        this.lookAtMentions();
      });
    } else {
      speak(found.language);
      const signIn = island(() => import('./SignIn.tsx').then((module) => module.SignIn), { session: found, onSignedIn: (entered: Session) => { signIn.close(); this.enter(entered); } });
      this.root.replaceChildren(signIn.element);
    }
  }

  private lookAtMentions(): void {
    answer(api.GET('/api/mentions')).then((mentions) => { this.mentions = mentions; this.draw(); }, () => undefined);
  }

  private draw(): void {
    const { person } = session();
    if (!person) return;
    const [where, key, third] = here();
    const designing = where === 'design' && key && readsDrafts(session());
    // Designing speaks English; the business application speaks the language of whoever works in it.
    const language = designing ? 'en' : person.language;
    speak(language);
    const part = this.part();
    if (designing || (where === 'print' && third)) {
      place(this.root, part ? [part.element] : []);
      return;
    }
    this.menu ??= new Menu(() => void this.signOut());
    this.menu.show(this.entities, this.mentions.length);
    place(this.content, part ? [part.element] : []);
    if (this.content.parentElement?.parentElement !== this.root) {
      const skip = make('a', { class: 'skip', href: '#content', on: { click: (event) => { event.preventDefault(); this.content.focus(); } } }, words()('skip'));
      this.root.replaceChildren(make('div', { class: 'shell' }, skip, this.menu.element, this.content));
    }
  }

  /** What stands where one is; the same as before while one is at the same place. */
  private part(): Shown | undefined {
    const found = this.partAt();
    if (this.shown && found?.key === this.shown.key) {
      this.shown.part.show?.();
      return this.shown.part;
    }
    this.shown?.part.close();
    this.shown = found && { key: found.key, part: found.make() };
    return this.shown?.part;
  }

  private partAt(): Part | undefined {
    const [where, key, third] = here();
    const loading = words()('loading');
    if (['design', 'layouts', 'application', 'releases'].includes(where ?? '') && !readsDrafts(session())) return this.nothing();
    if (['people', 'audit'].includes(where ?? '') && !may(session(), 'administer')) return this.nothing();
    switch (where) {
      case 'design':
        if (!key) return this.nothing();
        return this.standing(`design ${key}`, () => import('../designer/index.ts').then((module) => module.Designer), () => ({ layoutKey: key, section: third }), 'Opening the designer…');
      case 'print':
        return key && third ? this.standing(`print ${key} ${third}`, () => import('../runtime/PrintPage.tsx').then((module) => module.PrintPage), () => ({ entity: key, id: Number(third) })) : this.nothing();
      case 'layouts':
        return this.standing('layouts', () => import('../releases/LayoutsPage.tsx').then((module) => module.LayoutsPage), () => ({ entities: this.entities }), loading);
      case 'application':
        return this.standing('application', () => import('../application/ApplicationPage.tsx').then((module) => module.ApplicationPage), () => ({ part: here()[1], entities: this.entities }), loading);
      case 'releases':
        return this.standing('releases', () => import('../releases/ReleasesPage.tsx').then((module) => module.ReleasesPage), () => ({ about: here()[2] ? { kind: here()[1]!, name: here()[2]! } : undefined }), loading);
      case 'people':
        return this.standing('people', () => import('../people/PeoplePage.tsx').then((module) => module.PeoplePage), () => ({}), loading);
      case 'audit':
        return this.standing('audit', () => import('../people/AuditPage.tsx').then((module) => module.AuditPage), () => ({}), loading);
      case 'account':
        return this.standing('account', () => import('../people/AccountPage.tsx').then((module) => module.AccountPage), () => ({}), loading);
      case 'records': {
        if (key && third !== undefined && !/^(new|[1-9]\d*)$/.test(third)) return this.nothing();
        if (key && third !== undefined) return { key: `record ${key} ${third}`, make: () => new RecordPage(key, third === 'new' ? undefined : Number(third), () => this.lookAtMentions()) };
        const entity = this.entities.find((each) => each.key === key);
        // What there is is not known at once.
        if (!entity) return this.entities.length > 0 ? this.nothing() : undefined;
        return this.standing(`list ${entity.key} ${session().person!.roles.join(' ')}`, () => import('../runtime/ListPage.tsx').then((module) => module.ListPage), () => ({ entity }), loading);
      }
      case undefined:
        return this.entities.length > 0 ? this.standing('home', () => import('../runtime/HomePage.tsx').then((module) => module.HomePage), () => ({ entities: this.entities, mentions: this.mentions }), loading) : undefined;
      default:
        return this.nothing();
    }
  }

  /** There is nothing here, or not for whoever asks; which of the two is nobody's to know. */
  private nothing(): Part {
    const say = words();
    return { key: `nothing ${window.location.pathname}`, make: () => ({
      element: make('section', { class: 'nothing' },
        make('header', { class: 'page-head' }, make('h1', {}, say('nothingHere'))),
        make('p', {}, say('nothingAt', `/${here().join('/')}`)),
        make('p', {}, make('a', { class: 'button', href: '/' }, say('toBeginning')))),
      close: () => undefined,
    }) };
  }

  /** A part drawn by components, shown again with what has become known. */
  private standing<Props extends object>(key: string, load: () => Promise<ComponentType<Props>>, props: () => Props, waiting?: string): Part {
    return { key, make: () => {
      const part = island(load, props(), waiting);
      return { element: part.element, show: () => part.show(props()), close: part.close };
    } };
  }

  private async signOut(): Promise<void> {
    if (!leaveAll()) return;
    await forgetPerson(session().person!.id);
    await api.DELETE('/api/session');
    window.location.assign('/');
  }
}

/** Runs once what one came for is painted and takes the keys: whatever else happens before that is waited for. */
function whenIdle(run: () => void): void {
  // Not every browser tells when it is idle.
  if ('requestIdleCallback' in window) window.requestIdleCallback(run, { timeout: 500 });
  else setTimeout(run, 100);
}

/** The page's own language and direction. Said again, even the same would cost the styles of the whole page. */
function speak(language: string): void {
  const { documentElement: page } = document;
  const dir = isRightToLeft(language) ? 'rtl' : 'ltr';
  if (page.lang !== language) page.lang = language;
  if (page.dir !== dir) page.dir = dir;
}
