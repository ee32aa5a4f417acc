import { Suspense, useState } from 'react';
import { answer, api, type ChoiceListSummary } from '../../api/client.ts';
import { putDocument } from '../../api/documents.ts';
import { say } from '../../shell/configurator/texts.ts';
import { usePageTitle, useSession } from '../../shell/hooks.ts';
import { keyOf } from '../../shell/keys.ts';
import { useAnswer } from '../../shell/queries.ts';
import { may } from '../../shell/session.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { ChoicesDialog } from '../documents/index.ts';
import { DataHead } from './DataHead.tsx';
import { PublishWaiting, useWaiting } from './WaitingDrafts.tsx';

const none: ChoiceListSummary[] = [];

/** How many choices are named; of more, that there are. */
const most = 6;

/** The lists of choices fields take: what can be chosen, and how many fields rest on it. */
export function ListsPage() {
  usePageTitle(say('data.lists'));
  const session = useSession();
  const { data: lists = none, reload } = useAnswer(['documents', 'choice-lists'], () => answer(api.GET('/api/choice-lists')));
  const [open, setOpen] = useState<string>();
  const [making, setMaking] = useState(false);
  const configures = may(session, 'configure');
  const waiting = useWaiting('choice-list');
  const close = () => {
    setOpen(undefined);
    setMaking(false);
    void reload();
  };
  return (
    <>
      <DataHead here="lists">
        {configures && (
          <button type="button" className="button" onClick={() => setMaking(true)}>
            {say('data.newList')}
          </button>
        )}
        <PublishWaiting waiting={waiting} title={say('data.lists')} onClose={close} />
      </DataHead>
      {lists.length === 0 ? (
        <p className="empty">{say('data.noLists')}</p>
      ) : (
        <ListTable lists={lists} onOpen={configures ? setOpen : undefined} />
      )}
      <Suspense>
        {open && <ChoicesDialog list={open} languages={[...session.application.languages]} onClose={close} />}
        {making && <NewList taken={lists.map((list) => list.key)} onClose={close} />}
      </Suspense>
    </>
  );
}

interface ListTableProps {
  lists: ChoiceListSummary[];
  /** Opens the choices of a list; nothing where they may not be changed. */
  onOpen: ((key: string) => void) | undefined;
}

function ListTable({ lists, onOpen }: ListTableProps) {
  const columns = ['listName', 'key', 'choiceList', 'listUses'] as const;
  return (
    <div className="table-frame">
      <table className="table">
        <thead>
          <tr>
            {columns.map((each) => (
              <th key={each} scope="col" data-number={each === 'listUses' ? '' : undefined}>
                {say(`data.${each}`)}
              </th>
            ))}
            <th scope="col">{say('layoutsPage.state')}</th>
          </tr>
        </thead>
        <tbody>
          {lists.map((list) => (
            <tr key={list.key}>
              <td data-label={say('data.listName')}>
                {onOpen ? (
                  <button type="button" className="bt-link" onClick={() => onOpen(list.key)}>
                    {list.label}
                  </button>
                ) : (
                  list.label
                )}
              </td>
              <td data-label={say('data.key')}>{list.key}</td>
              <td data-label={say('data.choiceList')}>
                {list.choices.slice(0, most).join(', ')}
                {list.choices.length > most && ` ${say('data.moreChoices', list.choices.length - most)}`}
              </td>
              <td data-label={say('data.listUses')} data-number>
                {list.uses}
              </td>
              <td data-label={say('layoutsPage.state')}>{stateOf(list)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function stateOf({ revision, published }: ChoiceListSummary): string {
  if (published === null || published === undefined) return say('common.neverPublished');
  return revision === published ? say('layoutsPage.published') : say('layoutsPage.notPublished', revision - published);
}

/** A new list: what it is called, and its choices, one a line. */
function NewList({ taken, onClose }: { taken: readonly string[]; onClose: () => void }) {
  const [name, setName] = useState('');
  const [lines, setLines] = useState('');
  const labels = [...new Set(lines.split('\n').flatMap((line) => line.trim() || []))];
  const save = async () => {
    const key = keyOf(name, taken);
    const choices: { key: string; label: string }[] = [];
    for (const label of labels)
      choices.push({
        label,
        key: keyOf(
          label,
          choices.map((each) => each.key),
        ),
      });
    await putDocument('choice-list', key, { kind: 'choice-list', key, label: name.trim(), choices }, 0);
  };
  return (
    <FormDialog
      title={say('data.newList')}
      submit={say('common.create')}
      incomplete={!name.trim() || labels.length === 0}
      onSubmit={save}
      onClose={onClose}
    >
      <label htmlFor="list-name">{say('data.listName')}</label>
      <input
        id="list-name"
        className="bt-input"
        autoFocus
        autoComplete="off"
        dir="auto"
        maxLength={100}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <label htmlFor="list-choices">{say('addField.choicesOnePerLine')}</label>
      <textarea
        id="list-choices"
        className="bt-input"
        rows={8}
        dir="auto"
        value={lines}
        onChange={(event) => setLines(event.target.value)}
      />
    </FormDialog>
  );
}
