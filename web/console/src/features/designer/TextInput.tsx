import { useTextInput } from '../../ui/textInput.ts';

/** A text that counts when one is done with it: on leaving or on Enter; Escape takes it back. Until then it is only shown. */
export function TextInput({
  id,
  value,
  hint,
  lines,
  code,
  label,
  number,
  onDone,
  onTyping,
}: {
  id: string;
  value: string;
  hint: string;
  lines?: boolean;
  code?: boolean;
  label?: string;
  number?: { min: number; max: number };
  onDone: (text: string) => void;
  onTyping?: (text: string | undefined) => void;
}) {
  const typing = useTextInput(value, onDone, onTyping);
  const shared = {
    ...typing.input,
    id,
    'aria-label': label,
    className: code ? 'tool-input code' : 'tool-input',
    placeholder: hint,
    spellCheck: !code,
    dir: code ? ('ltr' as const) : ('auto' as const),
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === 'Enter' && (!lines || code || event.ctrlKey)) {
        event.preventDefault();
        typing.done();
      } else if (event.key === 'Escape') typing.reset();
    },
  };
  if (number)
    return (
      <input
        {...shared}
        type="number"
        min={number.min}
        max={number.max}
        // A step by arrow or wheel counts at once; only what is typed waits until one is done.
        onInput={({ nativeEvent, currentTarget }) => {
          if ((nativeEvent as InputEvent).inputType === undefined) onDone(currentTarget.value);
        }}
      />
    );
  return lines ? <textarea {...shared} rows={2} /> : <input {...shared} type="text" />;
}
