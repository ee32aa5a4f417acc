import { useState } from 'react';
import type { Piece } from '../../api/client.ts';
import type { CommandMenu } from './commands.ts';
import type { Binding } from './PieceDialog.tsx';
import { wasOffered } from './FirstJob.tsx';

/** Asks with a dialog that `ask` opens, and closes it with the answer. */
async function answerFrom<T>(ask: (answer: (said: T | undefined) => void) => void, close: () => void): Promise<T | undefined> {
  const said = await new Promise<T | undefined>(ask);
  close();
  return said;
}

/** What is open over the designer: dialogs, the list of commands, the first job. */
export function useDialogs(person: string) {
  const [listing, setListing] = useState<CommandMenu>();
  const [adding, setAdding] = useState(false);
  const [choices, setChoices] = useState<string>();
  const [publishing, setPublishing] = useState(false);
  const [job, setJob] = useState<'offered' | 'going' | undefined>(() => (wasOffered(person) ? undefined : 'offered'));
  const [naming, setNaming] = useState<{ part: string; answer: (name: string | undefined) => void }>();
  const [binding, setBinding] = useState<{ piece: Piece; answer: (binding: Binding | undefined) => void }>();
  return {
    listing,
    setListing,
    adding,
    setAdding,
    /** The choice list that is edited, by its key. */
    choices,
    setChoices,
    publishing,
    setPublishing,
    /** The first job of who is new here. */
    job,
    setJob,
    naming,
    askName: (part: string) =>
      answerFrom<string>(
        (answer) => setNaming({ part, answer }),
        () => setNaming(undefined),
      ),
    binding,
    askBinding: (piece: Piece) =>
      answerFrom<Binding>(
        (answer) => setBinding({ piece, answer }),
        () => setBinding(undefined),
      ),
  };
}
