import { memo, useContext, useEffect, useId, useRef, useState, type ReactNode } from 'react';
import { itemsIn, pageOf } from './content.ts';
import { Heading } from './Heading.tsx';
import { Icon } from './Icon.tsx';
import { editor } from './editors/Editor.tsx';
import { LevelContext, StoreContext, useStore, useTold } from './hooks.ts';
import { Other } from './items.tsx';
import { Related } from './Related.tsx';
import type { FormStore } from './store.ts';
import { isRightToLeft, say } from './texts.ts';
import type { Arrangement, Band as BandType, FieldItem, Item as ItemType, Page, PanelItem, Row as RowType, Section as SectionType, Side as SideType } from './types.ts';
import { display, fill, isEmpty } from './values.ts';

export interface FormProps {
  store: FormStore;
  /** The page shown, where pages are tabs or steps; without it the form keeps its own. */
  page?: string;
  onPage?: (id: string) => void;
}

/** Draws a resolved form over a store. Everything drawn carries the id of its node in data-node. */
export const Form = memo(function Form({ store, page, onPage }: FormProps) {
  const [own, setOwn] = useState<string>();
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!frame.current || !store.form.variants || typeof ResizeObserver === 'undefined') return undefined;
    // The width of the form's own container decides, not that of the window.
    const observer = new ResizeObserver(([entry]) => { if (entry) store.setWidth(entry.contentRect.width / parseFloat(getComputedStyle(document.documentElement).fontSize)); });
    observer.observe(frame.current);
    return () => observer.disconnect();
  }, [store, store.form]);
  return (
    <StoreContext value={store}>
      <div ref={frame} className="bt-form" data-width={store.form.width} data-density={store.form.density} data-mode={store.form.mode} dir={isRightToLeft(store.form.language) ? 'rtl' : 'ltr'} lang={store.form.language}>
        <Content page={page ?? own} onPage={onPage ?? setOwn} />
      </div>
    </StoreContext>
  );
});

function Content({ page, onPage }: { page: string | undefined; onPage: (id: string) => void }) {
  const store = useTold('content');
  const { top, bottom, start, end, arrangement, guarded, pages } = store.content;
  const body = <Panel pages={pages} arrangement={arrangement} guarded={guarded === true} current={page} onPage={onPage} />;
  return (
    <div className="bt-measure">
      {top && <Band band={top} place="top" />}
      {start || end ? <div className="bt-sides">{start && <Side side={start} />}<div className="bt-between">{body}</div>{end && <Side side={end} />}</div> : body}
      {bottom && <Band band={bottom} place="bottom" />}
    </div>
  );
}

function Side({ side }: { side: SideType }) {
  if (!useTold(`node:${side.id}`).state(side.id).visible) return null;
  return <aside className="bt-side" data-node={side.id} style={{ flexBasis: `${(side.share / 12) * 100}%` }}>{side.sections.map((section) => <Section key={section.id} section={section} />)}</aside>;
}

/** A band's text follows what is typed; while none of its values are there it says what it says of an empty record. */
function Band({ band, place }: { band: BandType; place: 'top' | 'bottom' }) {
  const store = useTold('values');
  const { form, surroundings } = store;
  const named = [...band.text.matchAll(/\{\s*([A-Za-z][\w-]*)/g)].map((match) => match[1]!);
  const empty = named.length > 0 && named.every((field) => isEmpty(store.get(field)));
  const text = empty && band.empty
    ? band.empty
    : fill(band.text, (field) => {
        const type = form.fields[field];
        return type ? display(type, store.get(field), form.language, surroundings.timeZone, store.name(field)) : '';
      }).replace(/^[\s,·-]+|[\s,·-]+$/g, '');
  const picture = band.picture ? store.get(band.picture) : null;
  const Tag = place === 'top' ? 'h1' : 'p';
  const side = (which: 'start' | 'end') => (band.items ?? []).filter((item) => (item.kind === 'action' && item.side === 'end' ? 'end' : 'start') === which).map((item) => <Item key={item.id} item={item} />);
  return (
    <div className="bt-band" data-node={band.id} data-place={place} data-tone={band.tone}>
      {typeof picture === 'string' && picture && <img className="bt-band-picture" src={surroundings.fileAddress(picture)} alt="" />}
      <Tag className="bt-band-text"><Icon path={band.icon} />{text || '\u00a0'}</Tag>
      {band.items && <div className="bt-bar">{side('start')}<span className="bt-bar-gap" />{side('end')}</div>}
    </div>
  );
}

interface PanelProps {
  pages: Page[];
  arrangement: Arrangement;
  guarded: boolean;
  current: string | undefined;
  onPage: (id: string) => void;
}

/** Pages in one of the four arrangements, the body's or a panel's in a cell. */
function Panel({ pages, arrangement, guarded, current, onPage }: PanelProps) {
  const store = useTold('content', ...pages.map((page) => `node:${page.id}`));
  const shown = pages.filter((page) => store.state(page.id).visible);
  if (arrangement === 'accordion') return <div className="bt-body" data-arrangement="accordion">{shown.map((page, i) => <Fold key={page.id} page={page} open={current ? page.id === current : i === 0} onOpen={() => onPage(page.id)} />)}</div>;
  if (arrangement === 'stack' || shown.length === 0) return <div className="bt-body" data-arrangement="stack">{shown.map((page) => <PageContent key={page.id} page={page} headed={shown.length > 1} />)}</div>;
  const active = shown.find((page) => page.id === current) ?? shown[0]!;
  return arrangement === 'tabs' ? <Tabs shown={shown} active={active} onPage={onPage} /> : <Steps shown={shown} active={active} guarded={guarded} onPage={onPage} />;
}

function Fold({ page, open, onOpen }: { page: Page; open: boolean; onOpen: () => void }) {
  return (
    <details className="bt-fold" data-tab={page.id} open={open}>
      <summary className="bt-fold-title" onClick={(event) => { event.preventDefault(); onOpen(); }}><Icon path={page.icon} />{page.title}</summary>
      {open && <PageContent page={page} headed={false} />}
    </details>
  );
}

/** One after another, with headings one can click; guarded ones let on only when what is shown is right. */
function Steps({ shown, active, guarded, onPage }: { shown: Page[]; active: Page; guarded: boolean; onPage: (id: string) => void }) {
  const store = useStore();
  const { language, mode } = store.form;
  const at = shown.indexOf(active);
  const go = (to: number) => {
    if (guarded && mode !== 'view' && to > at && !shown.slice(at, to).every((page) => store.validatePage(page))) return;
    onPage(shown[to]!.id);
  };
  return (
    <div className="bt-body" data-arrangement="steps">
      <ol className="bt-steps">
        {shown.map((page, i) => (
          <li key={page.id}><button type="button" className="bt-step" data-tab={page.id} aria-current={page === active ? 'step' : undefined} onClick={() => go(i)}><span className="bt-step-number">{i + 1}</span><Icon path={page.icon} />{page.title}</button></li>
        ))}
      </ol>
      <PageContent key={active.id} page={active} headed={false} />
      <div className="bt-bar">
        <button type="button" className="bt-action" disabled={at === 0} onClick={() => go(at - 1)}>{say(language, 'back')}</button>
        <span className="bt-help">{say(language, 'step', String(at + 1), String(shown.length))}</span>
        <button type="button" className="bt-action" data-weight="main" disabled={at === shown.length - 1} onClick={() => go(at + 1)}>{say(language, 'next')}</button>
      </div>
    </div>
  );
}

function Tabs({ shown, active, onPage }: { shown: Page[]; active: Page; onPage: (id: string) => void }) {
  const prefix = useId();
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
            <Icon path={page.icon} />{page.title || '\u00a0'}
            <TabAlert page={page} />
          </button>
        ))}
      </div>
      <div role="tabpanel" id={`${prefix}-panel`} aria-labelledby={`${prefix}-${active.id}`}>
        <PageContent key={active.id} page={active} headed={false} />
      </div>
    </div>
  );
}

/** Something on the page stands against saving. */
function TabAlert({ page }: { page: Page }) {
  const store = useTold('values');
  return store.problems().some((problem) => problem.id && pageOf([page], problem.id)) && <span className="bt-tab-alert" aria-label={say(store.form.language, 'attention')}>!</span>;
}

/** A panel in a cell keeps its own page. */
function InnerPanel({ item }: { item: PanelItem }) {
  const [current, setCurrent] = useState<string>();
  // What has a title of its own makes what is in it a level deeper; the panel has none.
  return <div className="bt-item bt-panel" data-node={item.id}><Panel pages={item.pages} arrangement={item.arrangement} guarded={item.guarded === true} current={current} onPage={setCurrent} /></div>;
}

const PageContent = memo(function PageContent({ page, headed }: { page: Page; headed: boolean }) {
  const level = useContext(LevelContext);
  const titled = headed && page.title;
  return (
    <LevelContext value={titled ? level + 1 : level}>
      <div className={ghostly('bt-page', page)} data-node={page.id}>
        {titled && <Heading className="bt-page-title">{page.title}</Heading>}
        {page.sections.map((section) => <Section key={section.id} section={section} />)}
      </div>
    </LevelContext>
  );
});

const Section = memo(function Section({ section }: { section: SectionType }) {
  const store = useTold(`node:${section.id}`);
  const heading = useId();
  const level = useContext(LevelContext);
  if (!store.state(section.id).visible) return null;
  const ghost = ghostOf(store, section);
  const rows = <LevelContext value={section.title ? level + 1 : level}>{section.rows.map((row) => <Row key={row.id} row={row} />)}</LevelContext>;
  const description = section.description && <p className="bt-section-about">{section.description}</p>;
  const shared = { className: ghost.className('bt-section'), title: ghost.why, 'data-node': section.id, 'data-frame': section.frame, 'data-labels': section.labels, 'data-align': section.labelAlign, 'data-tint': section.tint, 'data-gap': section.gap, 'data-above': section.above, style: styleOf(store, section.style, section.labelWidth ?? (section.labels === 'beside' ? longestLabel(section) : undefined)) };
  if (section.collapsible) {
    return (
      <details {...shared} open={!section.collapsed}>
        <summary className="bt-section-title"><Heading className="bt-fold-heading">{section.title}</Heading></summary>
        {description}
        <div className="bt-rows">{rows}</div>
      </details>
    );
  }
  return (
    <section {...shared} aria-labelledby={section.title ? heading : undefined}>
      {section.title && <Heading className="bt-section-title" id={heading}>{section.title}</Heading>}
      {description}
      <div className="bt-rows">{rows}</div>
    </section>
  );
});

/** Characters that a column of labels needs for its longest, within reason. */
function longestLabel(section: SectionType): number {
  let longest = 6;
  for (const item of itemsIn([section])) if (item.kind === 'field') longest = Math.max(longest, item.label.length);
  return Math.min(26, longest + 1);
}

/** Cells that are shown share the row: a hidden one leaves no hole. */
const Row = memo(function Row({ row }: { row: RowType }) {
  const store = useTold(`node:${row.id}`);
  if (!store.state(row.id).visible) return null;
  const shown = row.cells.filter((cell) => store.state(cell.id).visible);
  const spans = share(shown);
  return (
    <div className="bt-row" data-node={row.id}>
      {shown.map((cell, i) => (
        <div key={cell.id} className="bt-cell" data-node={cell.id} data-align={cell.align} style={{ gridColumn: `span ${spans[i]!}` }}>
          {cell.items.map((item) => (item.kind === 'field' ? <FieldLine key={item.id} item={item} /> : <Item key={item.id} item={item} />))}
        </div>
      ))}
    </div>
  );
});

/** The units each cell takes: written spans stand, the others share what is left, the first ones taking what does not divide. */
export function share(cells: { span: number; shares?: boolean }[]): number[] {
  const sharing = cells.filter((cell) => cell.shares).length;
  const left = Math.max(12 - cells.reduce((sum, cell) => sum + (cell.shares ? 0 : cell.span), 0), sharing);
  let seen = 0;
  return cells.map((cell) => (cell.shares ? Math.floor(left / sharing) + (seen++ < left % sharing ? 1 : 0) : cell.span));
}

function Item({ item }: { item: ItemType }) {
  const store = useTold(`node:${item.id}`);
  if (!store.state(item.id).visible) return null;
  const ghost = ghostOf(store, item);
  return item.kind === 'field' ? <FieldLine item={item} /> : item.kind === 'panel' ? <InnerPanel item={item} /> : item.kind === 'related' ? <Related item={item} ghost={ghost} /> : <Other item={item} ghost={ghost} />;
}

/** A named style as colours, and a width for labels where one is given. */
function styleOf(store: FormStore, name: string | undefined, labelWidth?: number): React.CSSProperties | undefined {
  const style = name ? store.form.styles?.[name] : undefined;
  if (!style && labelWidth === undefined) return undefined;
  return { ...(style?.ink ? { color: style.ink } : {}), ...(style?.paper ? { background: style.paper } : {}), ...(style?.strong ? { fontWeight: 640 } : {}), ...(labelWidth === undefined ? {} : { '--bt-label-width': `${labelWidth}ch` }) } as React.CSSProperties;
}

const grouped = ['radio', 'checks', 'yes-no', 'stars'];

/** A field's label, editor, help and error: one thing, moved and hidden together. */
const FieldLine = memo(function FieldLine({ item }: { item: FieldItem }) {
  const store = useTold(`node:${item.id}`, `field:${item.field}`);
  const id = useId();
  const state = store.state(item.id);
  const type = store.form.fields[item.field];
  if (!type || !state.visible) return null;
  const error = store.error(item.field);
  const ghost = ghostOf(store, item);
  const { language, marks } = store.form;
  const mark: ReactNode = state.readOnly ? null
    : marks === 'required' && state.required ? <span className="bt-required" title={say(language, 'requiredMark')} aria-hidden> *</span>
    : marks === 'optional' && !state.required ? <span className="bt-optional"> ({say(language, 'optional')})</span>
    : null;
  const describedBy = [item.help && `${id}-help`, error && `${id}-error`].filter(Boolean).join(' ') || undefined;
  const group = !state.readOnly && grouped.includes(item.editor);
  const after = item.editor === 'check' || item.editor === 'switch';
  const label = (
    <label className="bt-label" id={`${id}-label`} htmlFor={group || state.readOnly ? undefined : id}>{item.label}{item.punctuation ? ':' : ''}{mark}</label>
  );
  return (
    <div
      className={ghost.className('bt-item bt-field')} title={ghost.why} data-node={item.id} data-field={item.field} data-editor={item.editor}
      data-error={error ? '' : undefined} data-emphasis={item.emphasis ? '' : undefined} data-readonly={state.readOnly ? '' : undefined} data-after={after && !state.readOnly ? '' : undefined}
      data-labels={item.labels} data-stretches={item.stretches ? '' : undefined} style={styleOf(store, item.style)}
      onBlur={(event) => { if (!event.currentTarget.contains(event.relatedTarget)) store.leave(item.field); }}
    >
      {label}
      <div className="bt-control">
        {editor({
          item, type, value: store.get(item.field), id, labelId: `${id}-label`, required: state.required, readOnly: state.readOnly,
          invalid: error !== undefined, describedBy, onChange: (next) => store.set(item.field, next),
        })}
      </div>
      {item.help && <p className="bt-help" id={`${id}-help`}>{item.help}</p>}
      {error && <p className="bt-error" id={`${id}-error`}>{error}</p>}
    </div>
  );
});

/** While designing, what users would not see is drawn faintly, with the reason. */
function ghostOf(store: FormStore, node: { id: string; ghost?: string }) {
  const why = node.ghost ?? (store.designing && store.isHiddenByValues(node.id) ? 'Hidden for this record' : undefined);
  return { why, className: (name: string) => (why ? `${name} bt-ghost` : name) };
}

const ghostly = (name: string, node: { ghost?: string }) => (node.ghost ? `${name} bt-ghost` : name);

/** What stands against saving, each entry leading to its field wherever that is. */
export function ErrorSummary({ store, onReveal }: { store: FormStore; onReveal: (field: string, id?: string) => void }) {
  return <StoreContext value={store}><Summary onReveal={onReveal} /></StoreContext>;
}

function Summary({ onReveal }: { onReveal: (field: string, id?: string) => void }) {
  const store = useTold('values');
  const problems = store.problems();
  if (problems.length === 0) return null;
  return (
    <div className="bt-summary" role="alert">
      <p className="bt-summary-title">{say(store.form.language, 'attention')}</p>
      <ul>
        {problems.map((problem) => (
          <li key={`${problem.field} ${problem.message}`}><button type="button" className="bt-link" onClick={() => onReveal(problem.field, problem.id)}>{problem.message}</button></li>
        ))}
      </ul>
    </div>
  );
}

/** Moves the focus to a field's editor, once its page is drawn. */
export function focusField(within: HTMLElement, field: string): void {
  requestAnimationFrame(() => {
    const place = `[data-field="${CSS.escape(field)}"]`;
    // Of several with the same name, as in rows, the one that is wrong.
    const control = within.querySelector<HTMLElement>(`${place} [aria-invalid]`) ?? within.querySelector<HTMLElement>(`${place} :is(input, select, textarea, button)`);
    control?.scrollIntoView({ block: 'center' });
    control?.focus();
  });
}
