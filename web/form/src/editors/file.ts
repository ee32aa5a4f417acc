import { make, place as hold, text } from '../dom/dom.ts';
import { say } from '../model/texts.ts';
import { describe, type Editor, type Place } from './editor.ts';

const nameOf = (value: string) => value.split('/').slice(1).join('/');

/** A file or an image: chosen, taken with the camera, dropped or pasted; stored at once, named by the record when it is saved. */
export function file(place: Place): Editor {
  const image = place.type.type === 'image';
  const { language } = place.store.form;
  const input = fileInput({ id: place.id, accept: image ? 'image/*' : undefined }, store);
  // Where there is a camera, as on a phone, it is one touch away.
  const camera =
    image && typeof matchMedia === 'function' && matchMedia('(pointer: coarse)').matches
      ? fileInput({ accept: 'image/*', capture: 'environment', 'aria-label': say(language, 'takePhoto') }, store)
      : undefined;
  const status = make('span', {});
  const problem = make('p', { class: 'bt-error', role: 'alert' });
  const clear = () => {
    place.change(null);
    input.focus();
  };
  const remove = make('button', { type: 'button', class: 'bt-clear', on: { click: clear } }, say(language, 'remove'));
  const element = dropPlace(store);
  let value: string | null = null;
  let storing = false;
  let failed = '';
  const acts = make(
    'span',
    { class: 'bt-file-acts' },
    make('label', { class: 'bt-file-choose' }, input, status),
    camera && make('label', { class: 'bt-file-choose' }, camera, make('span', {}, say(language, 'takePhoto'))),
  );
  const draw = () => {
    const shown = value === null ? [] : [shownAs(place.store.host.fileAddress(value), value, image)];
    text(status, say(language, storing ? 'uploading' : value === null ? 'chooseFile' : 'replace'));
    text(problem, failed);
    hold(element, [...shown, acts, ...(value === null ? [] : [remove]), ...(failed ? [problem] : [])]);
  };
  function store(chosen: File | undefined) {
    if (!chosen) return;
    // The same file can be chosen again, as after it was refused.
    for (const each of [input, camera]) if (each) each.value = '';
    [storing, failed] = [true, ''];
    draw();
    place.store.host.upload(chosen).then(
      (stored) => {
        storing = false;
        place.change(stored);
        draw();
      },
      (error: unknown) => {
        [storing, failed] = [false, say(language, 'uploadFailed', error instanceof Error ? error.message : String(error))];
        draw();
      },
    );
  }
  return {
    element,
    show: (shown) => {
      describe(input, shown);
      if (value === shown.value && element.firstChild) return;
      value = shown.value as string | null;
      draw();
    },
  };
}

function fileInput(attributes: Record<string, string | undefined>, onChosen: (chosen: File | undefined) => void): HTMLInputElement {
  const input = make('input', {
    type: 'file',
    class: 'bt-visually-hidden',
    ...attributes,
    on: { change: () => onChosen(input.files?.[0]) },
  });
  return input;
}

/** A file as it is shown: a picture, or a link to it. */
const shownAs = (address: string, value: string, image: boolean) =>
  image
    ? make('img', { class: 'bt-picture', src: address, alt: nameOf(value) })
    : make('a', { class: 'bt-link', href: address }, nameOf(value));

/** Takes what is dropped on it or pasted into it. */
const dropPlace = (onChosen: (chosen: File | undefined) => void) =>
  make('div', {
    class: 'bt-file',
    on: {
      dragover: (event) => event.preventDefault(),
      drop: (event) => {
        event.preventDefault();
        onChosen(event.dataTransfer?.files[0]);
      },
      paste: (event) => {
        if (event.clipboardData?.files[0]) event.preventDefault();
        onChosen(event.clipboardData?.files[0]);
      },
    },
  });
