import { nameApplication } from '../shell/pageTitle.ts';
import { isRightToLeft, make, place, themed, writeAsIn } from '#form';
import { answer, api, type CommentInfo, type EntitySummary, type Session } from '../api/client.ts';
import { carried, expectsSomebody } from '../api/early.ts';
import { prepare } from './preparedRecord.ts';
import { RecordPage } from './RecordPage.ts';
import { forgetPerson, withhold } from './unsavedEntries.ts';
import { acknowledgeRelease, onServerEvent, startEvents } from '../shell/events.ts';
import type { Island } from '../shell/island.ts';
import type { HomeProps, Parts } from './parts.ts';
import { here, leaveAll, onPlace } from '../shell/location.ts';
import { Menu } from './Menu.ts';
import { enter, session } from '../shell/session.ts';
import { words } from '../shell/words.ts';

/** What stands where one is: drawn again with what has become known, closed when one goes elsewhere. */
interface MountedPage {
  element: HTMLElement;
  show?: () => void;
  close: () => void;
}

/** What is to stand at a place, and by what it is known to stand there already. */
interface Part {
  key: string;
  make: () => MountedPage;
}

/** What a page is drawn with. */
export interface PageContext {
  /** The place one is at: the parts of its address. */
  place: readonly string[];
  entities: EntitySummary[];
}

/** A page that is fetched when it is opened, by the first part of its address. */
export interface Feature<Props extends object = object> {
  /** Whether somebody may be here. */
  allows: (session: Session) => boolean;
  /** Fetches the page and draws it. */
  open: (props: Props, waiting: string) => Island<Props>;
  /** What it shows; another key is another page. Nothing where there is no such page. */
  key: (place: readonly string[]) => string | undefined;
  props: (known: PageContext) => Props;
  /** Whether it fills the window, without the menu. */
  whole?: boolean;
}

/** Makes a feature whose component takes these props. */
export const feature = <Props extends object>(made: Feature<Props>): Feature => made as unknown as Feature;

/** The console: who works here, the menu, and what stands at the place one is at. */
export class App {
  private entities: EntitySummary[] = [];
  private mentions: CommentInfo[] = [];
  private menu: Menu | undefined;
  private readonly content = make('main', { class: 'page', id: 'content', tabindex: -1 });
  private shown: { key: string; part: MountedPage } | undefined;

  /**
   * @param features Pages of those who configure and administer, by the first part of their address.
   * @param parts Pages of the business application that are fetched when they are opened.
   */
  constructor(
    private readonly root: HTMLElement,
    private readonly features: Readonly<Record<string, Feature>>,
    private readonly parts: Parts,
  ) {
    onPlace(() => this.draw());
    onServerEvent((event) => {
      if (event.type === 'comment') this.lookAtMentions();
      // Where no form or list stands there is nothing to draw anew; elsewhere those say so themselves.
      if (event.data.release !== undefined && !['records', 'print'].includes(here()[0] ?? '')) acknowledgeRelease(event.data.release);
      // The application goes out with a release: its theme, its roles and what they may; so may an entity.
      if (event.type === 'release') {
        answer(api.GET('/api/session')).then(
          (found) => this.renew(found),
          () => undefined,
        );
        this.lookAtEntities();
      }
      // Other roles, another language: everything open follows.
      if (event.type === 'person' && event.data.person === session().person?.id) void this.look();
    });
    if (expectsSomebody()) void prepare(here()).then(() => this.look());
    else void this.look();
  }

  private look(): Promise<void> {
    const here = carried('/api/session');
    return (here ? Promise.resolve(here.body as Session) : answer(api.GET('/api/session'))).then(
      (found) => this.enter(found),
      (error: Error) => {
        this.root.replaceChildren(make('main', { class: 'page' }, make('p', { class: 'notice', role: 'alert' }, error.message)));
      },
    );
  }

  /** The same person, in an application that may be another one. */
  private renew(found: Session): void {
    themed(document.documentElement, found.application.theme);
    nameApplication(found.application.title);
    if (found.person && found.person.id === session().person?.id) enter(found);
  }

  private enter(found: Session): void {
    enter(found);
    writeAsIn(found.person?.region);
    nameApplication(found.application.title);
    themed(document.documentElement, found.application.theme);
    if (found.person) {
      this.draw();
      if (found.viewer) void import('./personView.ts').then(({ showPersonView }) => showPersonView(found));
      whenIdle(() => {
        startEvents(found.lastEventId);
        void withhold(found.person!.id);
        this.lookAtEntities();
        this.lookAtMentions();
      });
    } else {
      speak(found.language);
      const signIn = this.parts.signIn({
        session: found,
        onSignedIn: (entered: Session) => {
          signIn.close();
          this.enter(entered);
        },
      });
      this.root.replaceChildren(signIn.element);
    }
  }

  private lookAtEntities(): void {
    answer(api.GET('/api/entities')).then(
      (entities) => {
        this.entities = entities;
        this.draw();
      },
      () => undefined,
    );
  }

  private lookAtMentions(): void {
    answer(api.GET('/api/mentions')).then(
      (mentions) => {
        this.mentions = mentions;
        this.draw();
      },
      () => undefined,
    );
  }

  private draw(): void {
    const { person } = session();
    if (!person) return;
    const [where, , third] = here();
    const feature = where === undefined ? undefined : this.features[where];
    const whole = feature?.whole && feature.key(here()) !== undefined && feature.allows(session());
    speak(person.language);
    const part = this.part();
    if (whole || (where === 'print' && third)) {
      place(this.root, part ? [part.element] : []);
      return;
    }
    this.menu ??= new Menu(() => void this.signOut());
    this.menu.show(this.entities, this.mentions.length);
    place(this.content, part ? [part.element] : []);
    if (this.content.parentElement?.parentElement !== this.root) {
      const skip = make(
        'a',
        {
          class: 'skip',
          href: '#content',
          on: {
            click: (event) => {
              event.preventDefault();
              this.content.focus();
            },
          },
        },
        words()('skip'),
      );
      this.root.replaceChildren(make('div', { class: 'shell' }, skip, this.menu.element, this.content));
    }
  }

  /** What stands where one is; the same as before while one is at the same place. */
  private part(): MountedPage | undefined {
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
    const feature = where === undefined ? undefined : this.features[where];
    if (feature) {
      const page = feature.allows(session()) ? feature.key(here()) : undefined;
      return page === undefined
        ? this.nothing()
        : standing(
            `${page} ${session().language}`,
            (props: object) => feature.open(props, loading),
            () => feature.props({ place: here(), entities: this.entities }),
          );
    }
    switch (where) {
      case 'print':
        return key && third
          ? standing(`print ${key} ${third}`, this.parts.print, () => ({ entity: key, id: Number(third) }))
          : this.nothing();
      case 'records': {
        if (key && third !== undefined && !/^(new|[1-9]\d*)$/.test(third)) return this.nothing();
        if (key && third !== undefined)
          return {
            key: `record ${key} ${third}`,
            make: () =>
              new RecordPage({ entity: key, id: third === 'new' ? undefined : Number(third) }, this.parts, () => this.lookAtMentions()),
          };
        const entity = this.entities.find((each) => each.key === key);
        // What there is is not known at once.
        if (!entity) return this.entities.length > 0 ? this.nothing() : undefined;
        return standing(
          `list ${entity.key} ${session().person!.roles.join(' ')}`,
          (props: { entity: EntitySummary }) => this.parts.list(props, loading),
          () => ({ entity }),
        );
      }
      case undefined:
        return this.entities.length > 0
          ? standing(
              'home',
              (props: HomeProps) => this.parts.home(props, loading),
              () => ({ entities: this.entities, mentions: this.mentions }),
            )
          : undefined;
      default:
        return this.nothing();
    }
  }

  /** There is nothing here, or not for whoever asks; which of the two is nobody's to know. */
  private nothing(): Part {
    const say = words();
    return {
      key: `nothing ${window.location.pathname}`,
      make: () => ({
        element: make(
          'section',
          { class: 'nothing' },
          make('header', { class: 'page-head' }, make('h1', {}, say('nothingHere'))),
          make('p', {}, say('nothingAt', `/${here().join('/')}`)),
          make('p', {}, make('a', { class: 'button', href: '/' }, say('toBeginning'))),
        ),
        close: () => undefined,
      }),
    };
  }

  private async signOut(): Promise<void> {
    if (!leaveAll()) return;
    await forgetPerson(session().person!.id);
    await api.DELETE('/api/session');
    window.location.assign('/');
  }
}

/** A part drawn by components, shown again with what has become known. */
const standing = <Props extends object>(key: string, open: (props: Props) => Island<Props>, props: () => Props): Part => ({
  key,
  make: () => {
    const part = open(props());
    return { element: part.element, show: () => part.show(props()), close: part.close };
  },
});

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
