import { useState } from 'react';
import { answer, api, ApiError, type ScheduledRelease, type Receipt } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { nameOf } from '../../shell/configurator/documentNames.ts';
import { useRoleNames } from './roleNames.ts';

/** A draft as it was looked at. */
export interface PublishedDraft {
  kind: string;
  key: string;
  revision: number;
}

/** What is to go out. */
export interface Publication {
  /** Each at the revision that was looked at. */
  documents: readonly PublishedDraft[];
  title: string;
  /** What stands against it. */
  errors: readonly { node: string; code: string; message: string }[];
}

/** What is said about it before it goes out. */
interface Terms {
  note: string;
  /** Those who get it first; without them everyone does. */
  roles: readonly string[] | undefined;
  /** When it is published, as a field for a local day and time has it; at once without. */
  at: string | undefined;
  everyoneAt: string;
  overrideReason: string | undefined;
}

const plain: Terms = { note: '', roles: undefined, at: undefined, everyoneAt: '', overrideReason: undefined };

/** The moment a field for a local day and time holds, as the wire has it. */
const none: (PublishedDraft & { forKind: string; forKey: string; changedBy: readonly string[] })[] = [];

/** Publishing, one thing after another: what goes out, on which terms, and what came of it. */
export function usePublication(asked: Publication, onPublished: () => void) {
  // The menu may follow, where no entry of it leads to what went out.
  const [publication, setPublication] = useState(asked);
  const [terms, setTerms] = useState(plain);
  const [receipt, setReceipt] = useState<Receipt>();
  const [scheduled, setScheduled] = useState<ScheduledRelease>();
  const [problem, setProblem] = useState<ApiError['problem']>();
  const [busy, setBusy] = useState(false);
  /** What it rests on and does not go out with it, by name. */
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const names = publication.documents.map(nameOf);
  // What it rests on goes out with it, as far as it was changed too.
  const { data: along = none } = useAnswer(['drafts', 'dependencies', names], () =>
    answer(api.GET('/api/releases/dependencies', { params: { query: { document: names } } })),
  );
  const publish = async () => {
    setBusy(true);
    const { roles, at, everyoneAt, overrideReason, note } = terms;
    const chosen = along.filter((each) => !left.has(nameOf(each))).map(({ kind, key, revision }) => ({ kind, key, revision }));
    const body = {
      documents: [...chosen, ...publication.documents],
      note,
      ...(roles ? { roles: [...roles], ...(everyoneAt ? { everyoneAt } : {}) } : {}),
      ...(overrideReason === undefined ? {} : { overrideReason }),
    };
    try {
      if (at === undefined) setReceipt(await answer(api.POST('/api/releases', { body })));
      else setScheduled(await answer(api.POST('/api/scheduled-releases', { body: { ...body, at } })));
      onPublished();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setProblem(error.problem);
    } finally {
      setBusy(false);
    }
  };
  /** Goes on to publish what was drafted so that what went out is met. */
  const goOn = async (draft: Promise<PublishedDraft>, title: string, note: string) => {
    try {
      setPublication({ documents: [await draft], title, errors: [] });
      setTerms({ ...plain, note });
      setReceipt(undefined);
      setProblem(undefined);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setProblem(error.problem);
    }
  };
  const first = useRoleNames();
  return {
    publication,
    terms,
    setTerms: (more: Partial<Terms>) => setTerms({ ...terms, ...more }),
    receipt,
    scheduled,
    problem,
    busy,
    along,
    left,
    setLeft,
    publish,
    goOn,
    first,
  };
}

export type PublicationState = ReturnType<typeof usePublication>;
