import { choices, oneOf, search, select, stars, yesNo } from './choiceEditors.ts';
import type { Editor, Place } from './editor.ts';
import { file } from './file.ts';
import { lookupEditor } from './lookUp.ts';
import { output } from './output.ts';
import { check, line, lines, number, slider } from './inputEditors.ts';
import { dayOf } from './dayEditors.ts';

/** Makes an editor, over what is drawn of it already. */
type Make = (place: Place, drawn?: HTMLElement) => Editor;

const editors: Record<string, Make> = {
  lines,
  date: dayOf,
  time: dayOf,
  number,
  slider,
  stars,
  check,
  select,
  search,
  money: number,
  switch: check,
  'yes-no': yesNo,
  'date-time': dayOf,
  radio: oneOf,
  checks: choices,
  'look-up': lookupEditor,
  image: file,
  file,
};

/** What a field is entered with, or its value where it is only read. */
export const editorOf = (place: Place, readOnly: boolean, drawn?: HTMLElement): Editor =>
  (readOnly ? output : (editors[place.item.editor] ?? line))(place, drawn);
