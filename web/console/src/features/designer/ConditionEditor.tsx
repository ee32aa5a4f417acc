import { useContext, useId, useRef, useState, type RefObject } from 'react';
import { flushSync } from 'react-dom';
import { say } from '../../shell/configurator/texts.ts';
import { read, write, type Clauses } from './clauses.ts';
import { ClauseList } from './ClauseList.tsx';
import { complete, type CompletionList } from './completion.ts';
import { Scope } from './conditionScope.ts';
import { ConditionVerdict, useConditionReport } from './ConditionVerdict.tsx';

interface ConditionEditorProps {
  id: string;
  value: string;
  label: string;
  hint: string;
  onDone: (text: string) => void;
}

/**
 * A condition as text with completion, or put together by clicking; what it comes to is said while it is written. It counts on leaving, on
 * Ctrl+Enter, or with each click.
 */
export function ConditionEditor({ id, value, label, hint, onDone }: ConditionEditorProps) {
  const scope = useContext(Scope);
  const [typed, setTyped] = useState<string>();
  const [clicking, setClicking] = useState(false);
  const [clicked, setClicked] = useState<{ text: string; clauses: Clauses }>();
  const input = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  // What was sent stands until the draft says something else: it is not taken back while it is on its way.
  const [sent, setSent] = useState<{ text: string; over: string }>();
  const text = typed ?? (sent?.over === value ? sent.text : value);
  const completion = useCompletion(text, input, setTyped);
  const said = useConditionReport(text, typed !== undefined);
  // What was clicked stands at once, before the service has read it back; what is known of another text says nothing of this one.
  const clauses: Clauses | undefined =
    text.trim() === ''
      ? { joined: '&&', list: [] }
      : clicked?.text === text
        ? clicked.clauses
        : said?.of === text && said.problems.length === 0
          ? read(said.tree)
          : undefined;

  const click = (next: Clauses) => {
    const written = write(next, scope?.fields ?? []);
    setClicked({ text: written, clauses: next });
    done(written);
  };
  const done = (next = typed) => {
    completion.close();
    if (next !== undefined && next.trim() !== value) {
      setSent({ text: next.trim(), over: value });
      onDone(next.trim());
    } else if (next !== undefined) setSent(undefined);
    setTyped(undefined);
  };
  return (
    <div className="condition">
      {clicking && clauses ? (
        <ClauseList id={id} clauses={clauses} onChange={click} />
      ) : (
        <ConditionText
          {...{ id, label, hint, list, text, input, completion }}
          invalid={Boolean(said?.problems.length)}
          onTyped={setTyped}
          onDone={() => done()}
          onBack={() => setTyped(undefined)}
        />
      )}
      <Offers id={list} offered={completion.offered} onChoose={completion.accept} />
      <ConditionVerdict id={`${list}-said`} known={said} />
      {(clauses || clicking) && (
        <button
          type="button"
          className="bt-link condition-way"
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => {
            done();
            setClicking(!clicking && clauses !== undefined);
          }}
        >
          {clicking && clauses ? say('conditionEditor.writeItAsText') : say('conditionEditor.buildItByClicking')}
        </button>
      )}
    </div>
  );
}

/** What fits where one writes, chosen by arrows and Enter. */
function useCompletion(text: string, input: RefObject<HTMLTextAreaElement | null>, onTyped: (text: string) => void) {
  const scope = useContext(Scope);
  const [offered, setOffered] = useState<CompletionList & { at: number }>();
  const offer = (next: string, at: number) => setOffered(scope ? { ...complete(next, at, scope.fields, scope.roles), at: 0 } : undefined);
  const close = () => setOffered(undefined);
  const accept = (index: number) => {
    const chosen = offered?.offers[index];
    const element = input.current;
    if (!chosen || !offered || !element) return;
    const next = text.slice(0, offered.from) + chosen.text + text.slice(element.selectionStart);
    const at = offered.from + chosen.text.length;
    // At once: what is typed next comes behind it.
    flushSync(() => {
      onTyped(next);
      offer(next, at);
    });
    element.setSelectionRange(at, at);
  };
  const count = offered?.offers.length ?? 0;
  const go = (by: number) => offered && setOffered({ ...offered, at: (offered.at + by + count) % count });
  /** What a key does here; nothing where it does what it always does. */
  const actOf = (event: React.KeyboardEvent<HTMLTextAreaElement>): (() => void) | undefined => {
    if (event.key === ' ' && event.ctrlKey) return () => offer(text, event.currentTarget.selectionStart);
    if (count === 0) return undefined;
    if (event.key === 'ArrowDown') return () => go(1);
    if (event.key === 'ArrowUp') return () => go(-1);
    if (event.key === 'Enter' && !event.ctrlKey) return () => accept(offered!.at);
    return event.key === 'Escape' ? close : undefined;
  };
  return { offered, offer, close, accept, actOf };
}

interface ConditionTextProps {
  id: string;
  label: string;
  hint: string;
  list: string;
  text: string;
  input: RefObject<HTMLTextAreaElement | null>;
  completion: ReturnType<typeof useCompletion>;
  invalid: boolean;
  onTyped: (text: string) => void;
  onDone: () => void;
  onBack: () => void;
}

function ConditionText({ id, label, hint, list, text, input, completion, invalid, onTyped, onDone, onBack }: ConditionTextProps) {
  const { offered, offer, actOf } = completion;
  return (
    <textarea
      ref={input}
      id={id}
      aria-label={label}
      className="tool-input code"
      rows={2}
      dir="ltr"
      spellCheck={false}
      placeholder={hint}
      value={text}
      aria-invalid={invalid}
      aria-describedby={`${list}-said`}
      aria-haspopup="listbox"
      aria-controls={list}
      aria-autocomplete="list"
      aria-activedescendant={offered?.offers.length ? `${list}-${offered.at}` : undefined}
      onChange={(event) => {
        onTyped(event.target.value);
        offer(event.target.value, event.target.selectionStart);
      }}
      onKeyDown={(event) => {
        const act = actOf(event) ?? (event.key === 'Enter' ? onDone : undefined);
        if (act) {
          event.preventDefault();
          event.stopPropagation();
          act();
        } else if (event.key === 'Escape') onBack();
      }}
      onBlur={onDone}
    />
  );
}

interface OffersProps {
  id: string;
  offered: (CompletionList & { at: number }) | undefined;
  onChoose: (index: number) => void;
}

/** What fits where one writes. */
function Offers({ id, offered, onChoose }: OffersProps) {
  return (
    <ul
      id={id}
      role="listbox"
      aria-label={say('conditionEditor.whatFitsHere')}
      className="condition-offers"
      hidden={!offered?.offers.length}
    >
      {offered?.offers.map((each, i) => (
        <li
          key={each.text}
          id={`${id}-${i}`}
          role="option"
          aria-selected={i === offered.at}
          onPointerDown={(event) => {
            event.preventDefault();
            onChoose(i);
          }}
        >
          <code>{each.text}</code> <small>{each.about}</small>
        </li>
      ))}
    </ul>
  );
}
