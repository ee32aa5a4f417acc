import { display, writeMoment, type FieldType, type Json, type ResolvedForm } from '#form';
import { useEffect, useState } from 'react';
import { answer, api, type CommentInfo, type RecordInfo } from '../../api/client.ts';
import { toType } from '../../shell/fieldType.ts';
import { useWords } from '../../shell/hooks.ts';
import { useAnswer } from '../../shell/queries.ts';
import { usePeople } from '../../shell/people.ts';
import { CommentForm } from '../comments/index.ts';
import type { RecordCommentsProps } from '../../runtime/parts.ts';
import '../../styles/comments.css';

const none: CommentInfo[] = [];

/** Under a record: what people say about it, and what happened to it. */
export function RecordComments({ entity, record, form, onLooked }: RecordCommentsProps) {
  const say = useWords();
  const path = { entity, id: record.id };
  const { data: comments = none, reload } = useAnswer(['comments', 'record', entity, record.id], () =>
    answer(api.GET('/api/records/{entity}/{id}/comments', { params: { path } })),
  );
  useEffect(() => {
    if (comments !== none) onLooked();
  }, [comments, onLooked]);
  const when = (at: string) => writeMoment(new Date(at), form.language);
  const send = async (text: string) => {
    await answer(api.POST('/api/records/{entity}/{id}/comments', { params: { path }, body: { text } }));
    reload();
  };
  return (
    <section className="talk">
      <h2>{say('comments')}</h2>
      {comments.length === 0 && <p className="talk-none">{say('commentsNone')}</p>}
      <ul className="talk-list" aria-live="polite">
        {comments.map((comment) => (
          <li key={comment.id}>
            <p className="talk-by">
              <b>{comment.byName}</b> <time dateTime={comment.at}>{when(comment.at)}</time>
            </p>
            <p className="talk-text" dir="auto">
              {comment.text}
            </p>
          </li>
        ))}
      </ul>
      <CommentForm onSay={send} />
      <History entity={entity} record={record} form={form} when={when} />
    </section>
  );
}

function History({ entity, record, form, when }: { entity: string; record: RecordInfo; form: ResolvedForm; when: (at: string) => string }) {
  const say = useWords();
  const people = usePeople();
  const [open, setOpen] = useState(false);
  const { data: entries } = useAnswer(
    ['records', 'history', entity, record.id, record.version],
    open ? () => answer(api.GET('/api/records/{entity}/{id}/history', { params: { path: { entity, id: record.id } } })) : undefined,
  );
  const { data: info } = useAnswer(
    ['entities', entity],
    open ? () => answer(api.GET('/api/entities/{key}', { params: { path: { key: entity } } })) : undefined,
  );
  const acts = { create: say('made'), change: say('changed'), delete: say('deleted'), restore: say('restored') } as Record<string, string>;
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const words = (type: FieldType | undefined, value: unknown, title: string | null | undefined) =>
    (type ? display(type, value as Json, form.language, zone, title ? { title } : undefined) : String(value ?? '')) || say('emptyValue');
  return (
    <details className="history" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>{say('history')}</summary>
      {entries?.length === 0 && <p>{say('historyNone')}</p>}
      <ol className="history-list">
        {info &&
          entries?.map((entry) => (
            <li key={entry.version}>
              <p className="talk-by">
                <b>{people.name(entry.by)}</b> {acts[entry.action] ?? entry.action} <time dateTime={entry.at}>{when(entry.at)}</time>
              </p>
              {entry.action === 'change' && (
                <ul>
                  {entry.changes.map((change) => {
                    const field = info.fields.find((each) => each.key === change.field);
                    const type = field && toType(field);
                    return (
                      <li key={change.field}>
                        {field?.label ?? change.field}: <s>{words(type, change.before, change.beforeTitle)}</s>{' '}
                        <span aria-hidden className="to-arrow">
                          →
                        </span>{' '}
                        <span>{words(type, change.after, change.afterTitle)}</span>
                      </li>
                    );
                  })}
                </ul>
              )}
            </li>
          ))}
      </ol>
    </details>
  );
}
