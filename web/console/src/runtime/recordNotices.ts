import { make, writeMoment } from '#form';
import { words } from '../shell/words.ts';
import type { Notice } from './notice.ts';
import type { UnsavedEntries } from './unsavedEntries.ts';

const link = (label: string, run: () => void) => make('button', { type: 'button', class: 'bt-link', on: { click: run } }, label);

/** What the page says above the form. */
export function notice({ says, tone, restorable }: Notice, acts: { dismiss: () => void; restore: () => void }): HTMLElement {
  const say = words();
  const text = 'word' in says ? say(says.word, ...(says.values ?? [])) : says.text;
  const close = { type: 'button', class: 'notice-close', 'aria-label': say('dismiss'), on: { click: acts.dismiss } } as const;
  return make(
    'p',
    { class: 'notice', 'data-tone': tone, role: tone === 'bad' ? 'alert' : 'status' },
    `${text} `,
    restorable && link(say('bringBack'), acts.restore),
    make('button', close, '×'),
  );
}

/** Something was typed earlier and never saved: it can be restored or discarded. */
export function offer(unsaved: UnsavedEntries, language: string, acts: { restore: () => void; discard: () => void }): HTMLElement {
  const say = words();
  return make(
    'p',
    { class: 'notice', 'data-tone': 'quiet', role: 'status' },
    `${say('draftFound', writeMoment(new Date(unsaved.at), language))} `,
    link(say('draftRestore'), acts.restore),
    ' ',
    link(say('draftDiscard'), acts.discard),
  );
}
