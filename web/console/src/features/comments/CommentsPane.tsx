import { useState } from 'react';
import { usePeople } from '../../shell/people.ts';
import { CommentForm } from './CommentForm.tsx';
import type { Comments } from './useComments.ts';
import { moment } from '../../shell/configurator/moment.ts';
import { say } from '../../shell/configurator/texts.ts';
import '../../styles/comments.css';

interface CommentsPaneProps {
  comments: Comments;
  /** What the whole is called: this form, the menu. */
  whole: string;
  /** The item it is about alone; nothing for all of it. */
  about?: string | undefined;
  /** What an item is called; nothing where it is gone. */
  nameOf?: (item: string) => string | undefined;
  onSelect?: (item: string) => void;
}

/** What is said about a draft: of one item, or of all of it; what is open, and what is done on request. */
export function CommentsPane({ comments, whole, about, nameOf = () => undefined, onSelect }: CommentsPaneProps) {
  const people = usePeople();
  const [done, setDone] = useState(false);
  const shown = comments.all.filter((comment) => (!about || comment.item === about) && (done || !comment.resolvedBy));
  const hidden = comments.all.filter((comment) => (!about || comment.item === about) && comment.resolvedBy).length;
  return (
    <div className="comments-pane">
      <h2>{say('commentsPane.about', about ? (nameOf(about) ?? about) : whole)}</h2>
      {shown.length === 0 && (
        <p className="palette-none">
          {about
            ? say('commentsPane.noOpenCommentsOnIt')
            : onSelect
              ? say('commentsPane.noOpenCommentsSelectAn')
              : say('commentsPane.noOpenComments')}
        </p>
      )}
      <ul className="talk-list" aria-live="polite">
        {shown.map((comment) => (
          <li key={comment.id} data-resolved={comment.resolvedBy ? '' : undefined}>
            <p className="talk-by">
              <b>{comment.byName}</b> <time dateTime={comment.at}>{moment(comment.at)}</time>
            </p>
            {!about &&
              comment.item &&
              (nameOf(comment.item) ? (
                <button type="button" className="bt-link" onClick={() => onSelect?.(comment.item!)}>
                  {nameOf(comment.item)}
                </button>
              ) : (
                <span className="palette-none">{say('commentsPane.onAnItemThatIs')}</span>
              ))}
            <p className="talk-text" dir="auto">
              {comment.text}
            </p>
            <button type="button" className="bt-link" onClick={() => void comments.resolve(comment, !comment.resolvedBy)}>
              {comment.resolvedBy ? say('commentsPane.doneSaidOpenItAgain', people.name(comment.resolvedBy)) : say('commentsPane.itIsDone')}
            </button>
          </li>
        ))}
      </ul>
      {hidden > 0 && (
        <button type="button" className="bt-link" aria-pressed={done} onClick={() => setDone(!done)}>
          {done ? say('commentsPane.withoutWhatIsDone') : say('commentsPane.doneHidden', hidden)}
        </button>
      )}
      <CommentForm onSay={(text) => comments.add(text, about)} />
    </div>
  );
}
