import { useState } from 'react';
import { useWords } from '../../shell/hooks.ts';
import { usePeople } from '../../shell/people.ts';

/** Where one says something; whoever is named with @ is told. */
export function CommentForm({ onSay }: { onSay: (text: string) => Promise<void> }) {
  const say = useWords();
  const people = usePeople();
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string>();
  const typed = /(?:^|\s)@([\w-]*)$/.exec(text)?.[1];
  const offered =
    typed === undefined
      ? []
      : people.all.filter((person) => `${person.id} ${person.name}`.toLowerCase().includes(typed.toLowerCase())).slice(0, 6);
  const send = () =>
    onSay(text).then(
      () => {
        setText('');
        setProblem(undefined);
      },
      (error: Error) => setProblem(error.message),
    );
  return (
    <form
      className="talk-form"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <textarea
        className="bt-input"
        rows={2}
        maxLength={4000}
        dir="auto"
        placeholder={say('comment')}
        aria-label={say('comment')}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {offered.length > 0 && (
        <ul className="talk-people">
          {offered.map((person) => (
            <li key={person.id}>
              <button type="button" className="bt-clear" onClick={() => setText(text.replace(/@[\w-]*$/, `@${person.id} `))}>
                {person.name}
              </button>
            </li>
          ))}
        </ul>
      )}
      {problem && (
        <p className="bt-error" role="alert">
          {problem}
        </p>
      )}
      <button type="submit" className="button" disabled={!text.trim()}>
        {say('say')}
      </button>
    </form>
  );
}
