import { useStore } from '../hooks.ts';
import { say } from '../texts.ts';
import { display, isEmpty } from '../values.ts';
import { CheckEditor, ChecksEditor, RadioEditor, SelectEditor, StarsEditor, YesNoEditor } from './choosing.tsx';
import { date, DateTimeEditor, line, lines, NumberEditor, SliderEditor, time } from './typing.tsx';
import type { EditorProps } from './props.ts';
import { FileEditor } from './FileEditor.tsx';
import { LookUpEditor } from './LookUpEditor.tsx';

const plain: Record<string, (props: EditorProps) => React.JSX.Element> = { lines, date, time };

const editors: Record<string, (props: EditorProps) => React.JSX.Element> = {
  number: NumberEditor, money: NumberEditor, slider: SliderEditor, stars: StarsEditor,
  check: CheckEditor, switch: CheckEditor, 'yes-no': YesNoEditor,
  'date-time': DateTimeEditor,
  select: SelectEditor, radio: RadioEditor, checks: ChecksEditor,
  'look-up': LookUpEditor, image: FileEditor, file: FileEditor,
};

/** What a field is entered with, or its value where it is only read. */
export function editor(props: EditorProps) {
  const Chosen = props.readOnly ? Output : editors[props.item.editor];
  return Chosen ? <Chosen {...props} /> : (plain[props.item.editor] ?? line)(props);
}

/** A value that is only read. */
function Output({ item, type, value, labelId }: EditorProps) {
  const { form, surroundings, ...store } = useStoreParts(item.field);
  const empty = isEmpty(value);
  const text = display(type, value, form.language, surroundings.timeZone, store.name);
  return (
    <div className="bt-output" role="group" aria-labelledby={labelId} data-empty={empty ? '' : undefined}>
      {empty ? <span aria-label={say(form.language, 'empty')}>–</span>
        : type.type === 'image' ? <img className="bt-picture" src={surroundings.fileAddress(value as string)} alt={text} />
        : type.type === 'file' ? <a className="bt-link" href={surroundings.fileAddress(value as string)}>{text}</a>
        : type.type === 'email' ? <a className="bt-link" href={`mailto:${text}`}>{text}</a>
        : type.type === 'phone' ? <a className="bt-link" href={`tel:${text.replace(/\s/g, '')}`} dir="ltr">{text}</a>
        : type.type === 'url' && /^https?:/.test(text) ? <a className="bt-link" href={text} rel="noreferrer noopener" target="_blank">{text}</a>
        : type.type === 'rating' ? <span aria-label={say(form.language, 'stars', String(value), String(type.max ?? 5))}>{text}</span>
        : text}
    </div>
  );
}

function useStoreParts(field: string) {
  const store = useStore();
  return { form: store.form, surroundings: store.surroundings, name: store.name(field) };
}
