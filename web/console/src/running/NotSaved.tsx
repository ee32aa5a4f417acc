import type { FormStore, Mode } from '#form';
import { useCallback, useEffect, useSyncExternalStore } from 'react';
import { guardLeaving, isLeaving } from '../shell/location.ts';
import { useWords } from '../shell/words.ts';
import { keepUnsaved } from './unsaved.ts';

interface Place {
  person: string;
  entity: string;
  id: number | undefined;
  /** The version typed over. */
  version: number;
  mode: Mode;
  /** Something kept before waits to be taken up, and is not written over. */
  waits: boolean;
}

interface NotSavedProps {
  store: FormStore;
  /** Where what is typed belongs. */
  place: Place;
  /** Left all the same: what was typed is thrown away. */
  onLeave: () => void;
}

/** Says that something is not saved, asks before it is left, and keeps it meanwhile. Of the record's page this alone redraws with every keystroke. */
export function NotSaved({ store, place, onLeave }: NotSavedProps) {
  const say = useWords();
  const revision = useSyncExternalStore(useCallback((listener) => store.subscribe('values', listener), [store]), () => store.revision);
  useLeaveGuard(store.dirty, onLeave);
  useKeeping(store, revision, place);
  return store.dirty && <span className="unsaved" role="status">{say('notSaved')}</span>;
}

/** While something is not saved, leaving asks first; who leaves all the same throws it away. */
function useLeaveGuard(dirty: boolean, onLeave: () => void): void {
  const say = useWords();
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => { if (!isLeaving()) event.preventDefault(); };
    if (dirty) {
      guardLeaving(() => {
        const leave = window.confirm(say('leave'));
        if (leave) onLeave();
        return leave;
      });
      window.addEventListener('beforeunload', ask);
    }
    return () => {
      guardLeaving(undefined);
      window.removeEventListener('beforeunload', ask);
    };
  }, [dirty, say, onLeave]);
}

/** Keeps what is typed a moment later, for the case that it is never saved. */
function useKeeping(store: FormStore, revision: number, { person, entity, id, version, mode, waits }: Place): void {
  useEffect(() => {
    if (mode === 'view' || waits) return undefined;
    const wait = setTimeout(() => {
      const values = store.changes();
      const names = Object.fromEntries(Object.keys(values).flatMap((field) => { const name = store.name(field); return name ? [[field, name]] : []; }));
      void keepUnsaved(person, entity, id, store.dirty ? { at: Date.now(), version, values, names, related: store.relatedSaves() } : undefined);
    }, 400);
    return () => clearTimeout(wait);
  }, [store, revision, mode, waits, person, entity, id, version]);
}
