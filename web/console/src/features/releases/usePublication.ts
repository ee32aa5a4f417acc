import { useState } from 'react';
import { answer, api, ApiError, type ScheduledRelease, type Receipt } from '../../api/client.ts';
import { useAnswer } from '../../shell/queries.ts';
import { nameOf } from '../../shell/configurator/documentNames.ts';
import { useAudience } from './audience.ts';

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

/** Those who get it first, and how it reaches more. */
export interface FirstChoice {
  roles: readonly string[];
  /** People by their ids. */
  people: readonly string[];
  /** How many of a hundred beside them. */
  share: number;
  /** The time as a field for a local day and time has it. */
  steps: readonly { at: string; share: number }[];
  stops: boolean;
}

export const nobodyYet: FirstChoice = { roles: [], people: [], share: 0, steps: [], stops: true };

export const reachesNobody = ({ roles, people, share }: FirstChoice) => roles.length === 0 && people.length === 0 && share === 0;

/** What is said about it before it goes out. */
interface Terms {
  note: string;
  /** Those who get it first; without them everyone does. */
  first: FirstChoice | undefined;
  /** When it is published, as a field for a local day and time has it; at once without. */
  at: string | undefined;
  overrideReason: string | undefined;
}

const plain: Terms = { note: '', first: undefined, at: undefined, overrideReason: undefined };

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
    const { first, at, overrideReason, note } = terms;
    const chosen = along.filter((each) => !left.has(nameOf(each))).map(({ kind, key, revision }) => ({ kind, key, revision }));
    const body = {
      documents: [...chosen, ...publication.documents],
      note,
      ...(first ? { rollout: { ...first, roles: [...first.roles], people: [...first.people], steps: [...first.steps] } } : {}),
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
  const audience = useAudience();
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
    audience,
  };
}

export type PublicationState = ReturnType<typeof usePublication>;
