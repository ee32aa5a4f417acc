import { useState } from 'react';
import { useStore } from '../hooks.ts';
import { say } from '../texts.ts';
import { common, type EditorProps } from './props.ts';

/** A file or an image: chosen, dropped or pasted; stored at once, named by the record when it is saved. */
export function FileEditor(props: EditorProps) {
  const { form, surroundings } = useStore();
  const [state, setState] = useState<{ storing?: boolean; problem?: string }>({});
  const image = props.type.type === 'image';
  const value = props.value as string | null;
  const store = (file: File | undefined) => {
    if (!file) return;
    setState({ storing: true });
    surroundings.upload(file).then(
      (stored) => {
        props.onChange(stored);
        setState({});
      },
      (error: unknown) => setState({ problem: say(form.language, 'uploadFailed', error instanceof Error ? error.message : String(error)) }),
    );
  };
  return (
    <div
      className="bt-file" onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        store(event.dataTransfer.files[0]);
      }}
      onPaste={(event) => store(event.clipboardData.files[0])}
    >
      {value && (image ? <img className="bt-picture" src={surroundings.fileAddress(value)} alt={value.split('/').slice(1).join('/')} /> : <a className="bt-link" href={surroundings.fileAddress(value)}>{value.split('/').slice(1).join('/')}</a>)}
      <span className="bt-file-acts">
        <label className="bt-file-choose">
          <input {...common(props)} type="file" className="bt-visually-hidden" accept={image ? 'image/*' : undefined} onChange={(event) => store(event.target.files?.[0])} />
          <span>{state.storing ? say(form.language, 'uploading') : say(form.language, value ? 'replace' : 'chooseFile')}</span>
        </label>
        {value && <button type="button" className="bt-clear" onClick={() => props.onChange(null)}>{say(form.language, 'remove')}</button>}
      </span>
      {state.problem && <p className="bt-error">{state.problem}</p>}
    </div>
  );
}
