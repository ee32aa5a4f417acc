import { attribute, icon, make, place } from '#form';
import { answer, api, type EntitySummary, type MenuEntry } from '../api/client.ts';
import { onServerEvent } from '../shell/events.ts';
import { address, here } from '../shell/location.ts';
import { may, readsDrafts, session } from '../shell/session.ts';
import { words } from '../shell/words.ts';

const entry = (href: string, marked: boolean, title: string) =>
  make('a', { class: 'menu-entry', href, 'aria-current': marked ? 'page' : undefined }, title);

/** The places of those who configure and administer. */
function tools(where: string | undefined): HTMLElement[] {
  const say = words();
  const to = (name: 'layouts' | 'data' | 'application' | 'releases' | 'people' | 'audit') =>
    entry(address(name), where === name, say(name));
  return [
    ...(readsDrafts(session())
      ? [make('span', { class: 'menu-group' }, say('design')), to('layouts'), to('data'), to('application'), to('releases')]
      : []),
    ...(may(session(), 'administer') ? [to('people'), to('audit')] : []),
  ];
}

/** The business application's menu, as it is published; where none is, every entity. */
export class Menu {
  readonly element = make('nav', { class: 'menu' });
  /** What one goes to; on a phone it is opened from below, in reach of the thumb. */
  private readonly list = make('div', { class: 'menu-list', id: 'menu-list', popover: 'auto' });
  private readonly opener = make('button', { class: 'menu-open', type: 'button', popovertarget: 'menu-list' });
  private at = '';
  private entries: readonly MenuEntry[] = [];
  private entities: readonly EntitySummary[] = [];
  private mentions = 0;
  private readonly stop = onServerEvent((event) => {
    // Another release may have another menu; so may another role, and another language words it anew.
    if (event.type === 'release' || event.type === 'person') this.read();
  });

  constructor(private readonly signOut: () => void) {
    this.show();
    this.read();
  }

  close(): void {
    this.stop();
  }

  /** Draws where one is, which entities there are, and how often one is mentioned. */
  show(entities = this.entities, mentions = this.mentions): void {
    this.entities = entities;
    this.mentions = mentions;
    const [where, key] = here();
    const say = words();
    const { application, person } = session();
    const current = where === 'records' ? key : undefined;
    attribute(this.element, 'aria-label', say('mainMenu'));
    const focused = this.element.contains(document.activeElement) ? document.activeElement?.getAttribute('href') : undefined;
    // Wherever one has gone, it was gone to from here.
    if (this.at !== window.location.pathname && this.list.isConnected && this.list.matches(':popover-open')) this.list.hidePopover();
    this.at = window.location.pathname;
    place(this.opener, [icon('M4 6h16M4 12h16M4 18h16')!, document.createTextNode(say('menu'))]);
    place(this.list, [
      ...this.tree(this.entries, current),
      ...(this.entries.length === 0 ? entities.map((each) => entry(address('records', each.key), each.key === current, each.plural)) : []),
      ...tools(where),
      make('span', { class: 'menu-space' }),
      make(
        'a',
        { class: 'menu-who', href: address('account'), title: say('account'), 'aria-current': where === 'account' ? 'page' : undefined },
        person!.name,
        make('small', {}, person!.roles.map((role) => application.roles.find((each) => each.key === role)?.label ?? role).join(', ')),
      ),
      make('button', { class: 'menu-entry', type: 'button', on: { click: this.signOut } }, say('signOut')),
    ]);
    place(this.element, [
      make(
        'a',
        { class: 'menu-title', href: '/', 'aria-current': where === undefined ? 'page' : undefined },
        application.title,
        mentions > 0 && make('span', { class: 'count', title: say('mentioned') }, String(mentions)),
      ),
      this.opener,
      this.list,
    ]);
    // What was chosen by keys keeps the focus, though it is drawn anew.
    if (focused) this.element.querySelector<HTMLElement>(`[href="${CSS.escape(focused)}"]`)?.focus();
  }

  private tree(entries: readonly MenuEntry[], current: string | undefined): HTMLElement[] {
    return entries.flatMap((entry): HTMLElement[] => {
      const href = entry.entity ? address('records', entry.entity) : entry.address;
      if (entry.entries.length > 0) {
        return [
          make(
            'div',
            { class: 'menu-part', role: 'group', 'aria-label': entry.title },
            href
              ? make('a', { class: 'menu-group', href }, icon(entry.icon ?? undefined), entry.title)
              : make('span', { class: 'menu-group' }, icon(entry.icon ?? undefined), entry.title),
            ...this.tree(entry.entries, current),
          ),
        ];
      }
      return href
        ? [
            make(
              'a',
              { class: 'menu-entry', href, 'aria-current': entry.entity !== null && entry.entity === current ? 'page' : undefined },
              icon(entry.icon ?? undefined),
              entry.title,
            ),
          ]
        : [];
    });
  }

  private read(): void {
    answer(api.GET('/api/navigation')).then(
      (entries) => {
        this.entries = entries;
        this.show();
      },
      () => undefined,
    );
  }
}
