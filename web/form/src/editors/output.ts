import { attribute, make, place as hold } from '../dom/dom.ts';
import { say } from '../model/texts.ts';
import { display, isEmpty } from '../values/values.ts';
import type { Editor, Place } from './editor.ts';

/** A value that is only read. */
export function output(place: Place): Editor {
  const element = make('div', { class: 'bt-output', role: 'group', 'aria-labelledby': place.labelId });
  return {
    element,
    show: ({ value }) => {
      const { form, host } = place.store;
      const { type } = place;
      const empty = isEmpty(value);
      const text = display(type, value, form.language, host.timeZone, place.store.name(place.item.field));
      attribute(element, 'data-empty', empty);
      const link = (href: string, more = {}) => make('a', { class: 'bt-link', href, ...more }, text);
      const content = empty
        ? make('span', { 'aria-label': say(form.language, 'empty') }, '–')
        : type.type === 'image'
          ? make('img', { class: 'bt-picture', src: host.fileAddress(value as string), alt: text })
          : type.type === 'file'
            ? link(host.fileAddress(value as string))
            : type.type === 'email'
              ? link(`mailto:${text}`)
              : type.type === 'phone'
                ? link(`tel:${text.replace(/\s/g, '')}`, { dir: 'ltr' })
                : type.type === 'url' && /^https?:/.test(text)
                  ? link(text, { rel: 'noreferrer noopener', target: '_blank' })
                  : type.type === 'rating'
                    ? make('span', { 'aria-label': say(form.language, 'stars', String(value), String(type.max ?? 5)) }, text)
                    : document.createTextNode(text);
      hold(element, [content]);
    },
  };
}
