import { useId, useState, type ReactNode } from 'react';
import { Editor } from './editors/Editor.tsx';
import { StoreContext, useError, useNodeState, useRevision, useStore, useValue } from './hooks.ts';
import type { FormStore } from './store.ts';
import { isRightToLeft, say } from './texts.ts';
import type { Band as BandType, Cell as CellType, FieldItem, Item as ItemType, MarkItem, Page, Row as RowType, Section as SectionType } from './types.ts';
import { display, isEmpty } from './values.ts';

export interface FormProps {
  store: FormStore;
  /** The page shown, where pages are tabs; without it the form keeps its own. */
  page?: string;
  onPage?: (id: string) => void;
}

/** Draws a resolved form over a store. Everything drawn carries the id of its node in data-node. */
export function Form({ store, page, onPage }: FormProps) {
  const { form } = store;
  const [own, setOwn] = useState<string>();
  return (
    <StoreContext value={store}>
      <div className="bt-form" data-width={form.width} data-mode={form.mode} dir={isRightToLeft(form.language) ? 'rtl' : 'ltr'} lang={form.language}>
        <div className="bt-measure">
          {form.top && <Band band={form.top} place="top" />}
          <Body pages={form.pages} tabs={form.arrangement === 'tabs'} current={page ?? own} onPage={onPage ?? setOwn} />
          {form.bottom && <Band band={form.bottom} place="bottom" />}
        </div>
      </div>
    </StoreContext>
  );
}

/** A band's text follows what is typed; while none of its values are there it says what it says of an empty record. */
function Band({ band, place }: { band: BandType; place: 'top' | 'bottom' }) {
  const store = useStore();
  useRevision();
  const { form, surroundings } = store;
  const named = [...band.text.matchAll(/\{\s*([A-Za-z][\w-]*)/g)].map((match) => match[1]!);
  const empty = named.length > 0 && named.every((field) => isEmpty(store.get(field)));
  const text = empty && band.empty
    ? band.empty
    : band.text
        .replace(/\{\s*([A-Za-z][\w-]*)[^}]*\}/g, (_, field: string) => {
          const type = form.fields[field];
          return type ? display(type, store.get(field), form.language, surroundings.timeZone, store.name(field)) : '';
        })
        .replace(/^[\s,·-]+|[\s,·-]+$/g, '');
  const Tag = place === 'top' ? 'h1' : 'p';
  return (
    <div className="bt-band" data-node={band.id} data-place={place} data-tone={band.tone}>
      <Tag className="bt-band-text">{text || '\u00a0'}</Tag>
    </div>
  );
}

function Body({ pages, tabs, current, onPage }: { pages: Page[]; tabs: boolean; current: string | undefined; onPage: (id: string) => void }) {
  const prefix = useId();
  const store = useStore();
  useRevision();
  const shown = pages.filter((page) => store.state(page.id).visible);
  if (!tabs || shown.length === 0) return <div className="bt-body" data-arrangement="stack">{shown.map((page) => <PageContent key={page.id} page={page} headed={shown.length > 1} />)}</div>;
  const active = shown.find((page) => page.id === current) ?? shown[0]!;
  const withErrors = new Set(store.problems().map((problem) => problem.id && pageOf(pages, problem.id)));
  const go = (step: number) => {
    const next = shown[(shown.indexOf(active) + step + shown.length) % shown.length]!;
    onPage(next.id);
    document.getElementById(`${prefix}-${next.id}`)?.focus();
  };
  return (
    <div className="bt-body" data-arrangement="tabs">
      <div className="bt-tabs" role="tablist">
        {shown.map((page) => (
          <button
            key={page.id} type="button" role="tab" className="bt-tab" id={`${prefix}-${page.id}`} data-tab={page.id}
            aria-selected={page === active} aria-controls={`${prefix}-panel`} tabIndex={page === active ? 0 : -1}
            onClick={() => onPage(page.id)}
            onKeyDown={(event) => {
              const rtl = getComputedStyle(event.currentTarget).direction === 'rtl';
              if (event.key === 'ArrowRight') go(rtl ? -1 : 1);
              if (event.key === 'ArrowLeft') go(rtl ? 1 : -1);
            }}
          >
            {page.title || '\u00a0'}
            {withErrors.has(page.id) && <span className="bt-tab-alert" aria-label={say(store.form.language, 'attention')}>!</span>}
          </button>
        ))}
      </div>
      <div role="tabpanel" id={`${prefix}-panel`} aria-labelledby={`${prefix}-${active.id}`}>
        <PageContent key={active.id} page={active} headed={false} />
      </div>
    </div>
  );
}

/** The page a node stands on. */
export function pageOf(pages: Page[], id: string): string | undefined {
  return pages.find((page) => page.sections.some((section) => section.id === id || section.rows.some((row) => row.cells.some((cell) => cell.items.some((item) => item.id === id)))))?.id;
}

function PageContent({ page, headed }: { page: Page; headed: boolean }) {
  return (
    <div className={ghostly('bt-page', page)} data-node={page.id}>
      {headed && page.title && <h2 className="bt-page-title">{page.title}</h2>}
      {page.sections.map((section) => <Section key={section.id} section={section} />)}
    </div>
  );
}

function Section({ section }: { section: SectionType }) {
  const { visible } = useNodeState(section.id);
  const heading = useId();
  const ghost = useGhost(section);
  if (!visible) return null;
  const rows = section.rows.map((row) => <Row key={row.id} row={row} />);
  const description = section.description && <p className="bt-section-about">{section.description}</p>;
  const shared = { className: ghost.className('bt-section'), title: ghost.why, 'data-node': section.id, 'data-frame': section.frame, 'data-labels': section.labels };
  if (section.collapsible) {
    return (
      <details {...shared} open>
        <summary className="bt-section-title">{section.title}</summary>
        {description}
        <div className="bt-rows">{rows}</div>
      </details>
    );
  }
  return (
    <section {...shared} aria-labelledby={section.title ? heading : undefined}>
      {section.title && <h3 className="bt-section-title" id={heading}>{section.title}</h3>}
      {description}
      <div className="bt-rows">{rows}</div>
    </section>
  );
}

/** Cells that are shown share the row: a hidden one leaves no hole. */
function Row({ row }: { row: RowType }) {
  const store = useStore();
  const { visible } = useNodeState(row.id);
  if (!visible) return null;
  const shown = row.cells.filter((cell) => store.state(cell.id).visible);
  const spans = share(shown);
  return <div className="bt-row" data-node={row.id}>{shown.map((cell, i) => <Cell key={cell.id} cell={cell} span={spans[i]!} />)}</div>;
}

/** The units each cell takes: written spans stand, the others share what is left, the first ones taking what does not divide. */
export function share(cells: { span: number; shares?: boolean }[]): number[] {
  const sharing = cells.filter((cell) => cell.shares).length;
  const left = Math.max(12 - cells.reduce((sum, cell) => sum + (cell.shares ? 0 : cell.span), 0), sharing);
  let seen = 0;
  return cells.map((cell) => (cell.shares ? Math.floor(left / sharing) + (seen++ < left % sharing ? 1 : 0) : cell.span));
}

function Cell({ cell, span }: { cell: CellType; span: number }) {
  return (
    <div className="bt-cell" data-node={cell.id} style={{ gridColumn: `span ${span}` }}>
      {cell.items.map((item) => <Item key={item.id} item={item} />)}
    </div>
  );
}

function Item({ item }: { item: ItemType }) {
  const { visible } = useNodeState(item.id);
  if (!visible) return null;
  return item.kind === 'field' ? <FieldLine item={item} /> : <Mark item={item} />;
}

function Mark({ item }: { item: MarkItem }) {
  const ghost = useGhost(item);
  const shared = { className: ghost.className(`bt-item bt-${item.kind}`), title: ghost.why, 'data-node': item.id, 'data-size': item.kind === 'divider' || item.kind === 'spacer' ? item.content : undefined };
  if (item.kind === 'heading') return <h4 {...shared}>{item.content}</h4>;
  if (item.kind === 'text') return <p {...shared}>{item.content}</p>;
  return item.kind === 'divider' ? <hr {...shared} /> : <div {...shared} aria-hidden />;
}

const grouped = ['radio', 'checks', 'yes-no', 'stars'];

/** A field's label, editor, help and error: one thing, moved and hidden together. */
function FieldLine({ item }: { item: FieldItem }) {
  const store = useStore();
  const state = useNodeState(item.id);
  const error = useError(item.field);
  const value = useValue(item.field);
  const ghost = useGhost(item);
  const id = useId();
  const type = store.form.fields[item.field];
  if (!type) return null;
  const { language, marks } = store.form;
  const mark: ReactNode = state.readOnly ? null
    : marks === 'required' && state.required ? <span className="bt-required" title={say(language, 'requiredMark')} aria-hidden> *</span>
    : marks === 'optional' && !state.required ? <span className="bt-optional"> ({say(language, 'optional')})</span>
    : null;
  const describedBy = [item.help && `${id}-help`, error && `${id}-error`].filter(Boolean).join(' ') || undefined;
  const group = !state.readOnly && grouped.includes(item.editor);
  const after = item.editor === 'check' || item.editor === 'switch';
  const label = (
    <label className="bt-label" id={`${id}-label`} htmlFor={group || state.readOnly ? undefined : id}>{item.label}{mark}</label>
  );
  return (
    <div
      className={ghost.className('bt-item bt-field')} title={ghost.why} data-node={item.id} data-field={item.field} data-editor={item.editor}
      data-error={error ? '' : undefined} data-emphasis={item.emphasis ? '' : undefined} data-readonly={state.readOnly ? '' : undefined} data-after={after && !state.readOnly ? '' : undefined}
      onBlur={(event) => { if (!event.currentTarget.contains(event.relatedTarget)) store.leave(item.field); }}
    >
      {label}
      <div className="bt-control">
        <Editor
          item={item} type={type} value={value} id={id} labelId={`${id}-label`} required={state.required} readOnly={state.readOnly}
          invalid={error !== undefined} describedBy={describedBy} onChange={(next) => store.set(item.field, next)}
        />
      </div>
      {item.help && <p className="bt-help" id={`${id}-help`}>{item.help}</p>}
      {error && <p className="bt-error" id={`${id}-error`}>{error}</p>}
    </div>
  );
}

/** While designing, what users would not see is drawn faintly, with the reason. */
function useGhost(node: { id: string; ghost?: string }) {
  const store = useStore();
  const { visible } = useNodeState(node.id);
  const why = node.ghost ?? (store.designing && visible && store.isHiddenByValues(node.id) ? 'Hidden for this record' : undefined);
  return { why, className: (name: string) => (why ? `${name} bt-ghost` : name) };
}

const ghostly = (name: string, node: { ghost?: string }) => (node.ghost ? `${name} bt-ghost` : name);

/** What stands against saving, each entry leading to its field wherever that is. */
export function ErrorSummary({ store, onReveal }: { store: FormStore; onReveal: (field: string, id?: string) => void }) {
  return <StoreContext value={store}><Summary onReveal={onReveal} /></StoreContext>;
}

function Summary({ onReveal }: { onReveal: (field: string, id?: string) => void }) {
  const store = useStore();
  useRevision();
  const problems = store.problems();
  if (problems.length === 0) return null;
  return (
    <div className="bt-summary" role="alert">
      <p className="bt-summary-title">{say(store.form.language, 'attention')}</p>
      <ul>
        {problems.map((problem) => (
          <li key={problem.field}><button type="button" className="bt-link" onClick={() => onReveal(problem.field, problem.id)}>{problem.message}</button></li>
        ))}
      </ul>
    </div>
  );
}

/** Moves the focus to a field's editor, once its page is drawn. */
export function focusField(within: HTMLElement, field: string): void {
  requestAnimationFrame(() => {
    const control = within.querySelector<HTMLElement>(`[data-field="${CSS.escape(field)}"] :is(input, select, textarea, button)`);
    control?.scrollIntoView({ block: 'center' });
    control?.focus();
  });
}
