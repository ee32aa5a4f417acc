import { FormView, ErrorSummary as Summary, type FormStore, type PageOptions } from '#form';
import { useLayoutEffect, useRef } from 'react';

/** A form inside a page of components. It draws itself; here it is only given its place. */
export function Form({
  store,
  page,
  onPage,
  beforeDrawing,
}: {
  store: FormStore;
  /** Called before another version is drawn over what was. */
  beforeDrawing?: () => void;
} & PageOptions) {
  const place = useRef<HTMLDivElement>(null);
  const drawing = useRef<FormView>(undefined);
  useLayoutEffect(() => {
    if (drawing.current) {
      beforeDrawing?.();
      drawing.current.use(store, { page, onPage });
    } else place.current!.append((drawing.current = new FormView(store, { page, onPage })).element);
  }, [store, page, onPage, beforeDrawing]);
  useLayoutEffect(
    () => () => {
      drawing.current?.element.remove();
      drawing.current?.dispose();
      drawing.current = undefined;
    },
    [],
  );
  return <div ref={place} className="bt-place" />;
}

/** What stands against saving a form, in a page of components. */
export function ErrorSummary({ store, onReveal }: { store: FormStore; onReveal: (field: string, id?: string) => void }) {
  const place = useRef<HTMLDivElement>(null);
  const reveal = useRef(onReveal);
  useLayoutEffect(() => {
    reveal.current = onReveal;
  });
  useLayoutEffect(() => {
    const summary = new Summary(store, (field, id) => reveal.current(field, id));
    place.current!.append(summary.element);
    return () => {
      summary.element.remove();
      summary.dispose();
    };
  }, [store]);
  return <div ref={place} className="bt-place" />;
}
