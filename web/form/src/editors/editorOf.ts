import { choices, oneOf, search, select, stars, yesNo } from './choiceEditors.ts';
import type { Editor, Place } from './editor.ts';
import { file } from './file.ts';
import { lookupEditor } from './lookUp.ts';
import { output } from './output.ts';
import { check, date, dateTime, line, lines, number, slider, time } from './inputEditors.ts';

/** Makes an editor, over what is drawn of it already. */
type Make = (place: Place, drawn?: HTMLElement) => Editor;

const editors: Record<string, Make> = {
  lines,
  date,
  time,
  number,
  slider,
  stars,
  check,
  select,
  search,
  money: number,
  switch: check,
  'yes-no': yesNo,
  'date-time': dateTime,
  radio: oneOf,
  checks: choices,
  'look-up': lookupEditor,
  image: file,
  file,
};

/** What a field is entered with, or its value where it is only read. */
export const editorOf = (place: Place, readOnly: boolean, drawn?: HTMLElement): Editor =>
  (readOnly ? output : (editors[place.item.editor] ?? line))(place, drawn);
