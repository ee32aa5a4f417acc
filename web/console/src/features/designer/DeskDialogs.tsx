import { AddField, ChoicesDialog } from '../documents/index.ts';
import { lazy, Suspense } from 'react';
import type { TreeNode } from '#layout';
import type { DeskActs } from './acts.ts';
import { NameDialog } from './NameDialog.tsx';
import { readPieceForm } from './pieceForms.ts';
import { placedOn } from './placedFields.ts';
import type { Desk } from './useDesk.ts';
import type { Draft } from './draftState.ts';
import { DraftPublication } from './DraftPublication.tsx';
import { FirstJob } from './FirstJob.tsx';
import { CommandList } from './CommandList.tsx';

// What is not there at first is fetched when it is opened.
const PieceDialog = lazy(() => import('./PieceDialog.tsx').then((module) => ({ default: module.PieceDialog })));

interface DeskDialogsProps {
  desk: Desk;
  acts: DeskActs;
  draft: Draft;
  tree: TreeNode;
  title: string;
}

/** What is open over the designer. */
export function DeskDialogs(props: DeskDialogsProps) {
  const { desk, acts, draft, tree } = props;
  const { naming, binding, adding, choices, publishing } = desk.dialogs;
  const fieldAdded = (made: string | undefined) => {
    desk.dialogs.setAdding(false);
    if (!made) return;
    desk.readEntity();
    acts.start({ field: made });
  };
  const choicesDone = (changed: boolean) => {
    desk.dialogs.setChoices(undefined);
    if (!changed) return;
    desk.readEntity();
    desk.reload();
  };
  return (
    <>
      <Overlays {...props} />
      <Suspense>
        {adding && <AddField entity={draft.entity} onClose={fieldAdded} />}
        {choices && <ChoicesDialog list={choices} languages={desk.languages} onClose={choicesDone} />}
        {naming && <NameDialog part={naming.part} onDone={naming.answer} />}
        {publishing && <DraftPublication {...props} />}
        {binding && desk.store && (
          <PieceDialog
            piece={binding.piece}
            fields={desk.fields}
            placed={new Set(placedOn(tree).keys())}
            host={desk.store.host}
            read={() => readPieceForm(binding.piece.key, desk.context.language)}
            onDone={binding.answer}
          />
        )}
      </Suspense>
    </>
  );
}

/** The first job, and the list of commands. */
function Overlays({ desk, draft, tree }: DeskDialogsProps) {
  const { listing, setListing, job, setJob } = desk.dialogs;
  return (
    <>
      {job === 'going' && (
        <FirstJob
          person={desk.person}
          now={{ tree, trying: desk.trying, published: draft.published }}
          onClose={() => {
            setJob(undefined);
            desk.focusForm();
          }}
        />
      )}
      {listing && (
        <CommandList
          {...listing}
          selected={desk.selection.length > 0}
          onClose={(chosen) => {
            setListing(undefined);
            desk.focusForm();
            chosen?.run();
          }}
        />
      )}
    </>
  );
}
