import { useEffect } from 'react';
import { find, type Edit, type TreeNode } from '#layout';
import { answer, api } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';
import { address } from '../../shell/location.ts';
import { useAnswer } from '../../shell/queries.ts';
import { PublishDialog } from '../releases/index.ts';
import type { DiffResult } from './Changes.tsx';
import type { Draft } from './draftState.ts';
import { nounOf } from './names.ts';
import type { Desk } from './useDesk.ts';

interface DraftPublicationProps {
  desk: Desk;
  draft: Draft;
  tree: TreeNode;
  title: string;
}

/** Publishing the draft: beside the form, which shows what changes, and in words; afterwards back to the record one came from. */
export function DraftPublication({ desk, draft, tree, title }: DraftPublicationProps) {
  const { setCompared } = desk;
  const { key, revision, published } = draft;
  const { data } = useAnswer(
    ['layouts', 'diff', key, revision, published, 'released'],
    published === null
      ? undefined
      : () => answer(api.GET('/api/layouts/{key}/diff', { params: { path: { key }, query: { from: 'released' } } })),
  );
  const compared = data as unknown as DiffResult | undefined;
  useEffect(() => {
    setCompared(compared);
    return () => setCompared(undefined);
  }, [compared, setCompared]);
  const isPiece = tree.properties['kind'] === 'piece';
  return (
    <PublishDialog
      documents={[{ kind: 'layout', key, revision }]}
      errors={draft.findings.filter((finding) => finding.severity === 'error')}
      title={isPiece ? say('common.thePiece', title) : say('designer.theLayout', title.toLowerCase(), nounOf(tree))}
      beside
      back={recordOf(desk, draft)}
      onClose={() => desk.dialogs.setPublishing(false)}
      onPublished={() => void desk.state.refresh()}
    >
      {published === null ? (
        <p>{say('publishDialog.firstTime')}</p>
      ) : (
        compared && <WhatChanges compared={compared} tree={tree} onShow={desk.select} />
      )}
    </PublishDialog>
  );
}

/** How many changes are said at once. */
const most = 12;

/** The changes in words; a press leads to where one is on the form. */
function WhatChanges({ compared, tree, onShow }: { compared: DiffResult; tree: TreeNode; onShow: (id: string) => void }) {
  const { edits, summary } = compared;
  const told = summary.slice(0, most);
  const placeOf = (i: number) => (edits.length === summary.length ? placeIn(tree, edits[i]!) : undefined);
  return (
    <section className="publish-changes" aria-labelledby="publish-changes">
      <h3 id="publish-changes">{say('publishDialog.whatChanges')}</h3>
      <ul>
        {told.map((each, i) => {
          const at = placeOf(i);
          return (
            <li key={i}>
              {at ? (
                <button type="button" className="bt-link" onClick={() => onShow(at)}>
                  {each}
                </button>
              ) : (
                each
              )}
            </li>
          );
        })}
        {summary.length > most && <li>{say('publishDialog.andMore', summary.length - most)}</li>}
      </ul>
    </section>
  );
}

/** Where a change is on the form; nothing for what is gone. */
function placeIn(tree: TreeNode, edit: Edit): string | undefined {
  const id = edit.op === 'insert' ? edit.node.id : edit.op === 'remove' ? undefined : edit.node;
  return id !== undefined && find(tree, id) ? id : undefined;
}

/** The record one came from, or the one in view. */
function recordOf({ from, record, context }: Desk, { entity }: Draft): { href: string; title: string } | undefined {
  if (!entity || !record || (from === undefined && context.mode === 'create')) return undefined;
  return { href: address('records', entity, record.id), title: record.title };
}
