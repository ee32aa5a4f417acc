import { useEffect, useState } from 'react';
import { answer, api, ApiError, type TableOutcome, type TableRequest, type TableSketch } from '../../api/client.ts';

/** What somebody says of a column; what is not said is found out. */
export type ColumnWish = NonNullable<TableRequest['columns']>[number];

/** What somebody says of a table. */
export type Wish = Omit<TableRequest, 'columns'> & { columns: Partial<ColumnWish>[] };

export interface Refusal {
  text: string;
  lines: { line: string; message: string }[];
}

function refusalOf(error: unknown): Refusal {
  const parts = error instanceof ApiError ? (error.problem.problems ?? []) : [];
  return {
    text: (error as Error).message,
    lines: parts
      .map((part) => ({ line: part.pointer.split('/')[1] ?? '', message: part.message }))
      .filter((part) => /^[0-9]+$/.test(part.line))
      .slice(0, 20),
  };
}

/** How long nothing must have been said until it is asked what comes of it, in milliseconds. */
const quiet = 250;

const asRequest = (wish: Wish): TableRequest => ({
  ...wish,
  columns: wish.columns.length > 0 ? wish.columns.map((column) => ({ left: false, ...column })) : null,
});

/** A table on its way to being an entity: what it seems to be, what is said about it; then all of it or nothing. */
export function useTableSketch() {
  const [wish, setWish] = useState<Wish>();
  const [sketch, setSketch] = useState<TableSketch>();
  const [refusal, setRefusal] = useState<Refusal>();
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    if (!wish) return;
    const stop = new AbortController();
    const ask = () =>
      answer(api.POST('/api/tables/sketch', { body: asRequest(wish), signal: stop.signal })).then(
        (next) => {
          setRefusal(undefined);
          setSketch(next);
        },
        (error: unknown) => {
          if (!stop.signal.aborted) setRefusal(refusalOf(error));
        },
      );
    const soon = setTimeout(() => void ask(), quiet);
    return () => {
      clearTimeout(soon);
      stop.abort();
    };
  }, [wish]);
  const begin = (name: string, text: string) => {
    setSketch(undefined);
    setRefusal(undefined);
    setWish({ name, text, columns: [], emptyDoubtful: false, publish: true });
  };
  const change = (some: Partial<Wish>) => setWish((before) => before && { ...before, ...some });
  const changeColumn = (at: number, some: Partial<ColumnWish>) =>
    setWish(
      (before) =>
        before && {
          ...before,
          columns: (sketch?.columns ?? []).map((_, i) => ({ ...before.columns[i], ...(i === at ? some : {}) })),
        },
    );
  const make = async (publish: boolean): Promise<TableOutcome | undefined> => {
    if (!wish) return undefined;
    setBusy(true);
    try {
      return await answer(api.POST('/api/tables/entity', { body: { ...asRequest(wish), publish } }));
    } catch (error) {
      setRefusal(refusalOf(error));
      return undefined;
    } finally {
      setBusy(false);
    }
  };
  return { wish, sketch, refusal, busy, begin, change, changeColumn, make };
}

export type TableSketchState = ReturnType<typeof useTableSketch>;
