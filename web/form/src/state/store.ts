import { contentOf, itemsIn } from '../model/content.ts';
import { evaluate, Failure } from '../conditions/index.ts';
import { RelatedItems, RelatedRows, type Row } from './relatedRows.ts';
import { NodeStates, type NodeState } from './states.ts';
import type {
  CompiledCondition,
  Content,
  FieldItem,
  Item,
  Json,
  Page,
  RecordName,
  RelatedItem,
  RelatedSave,
  ResolvedForm,
  FormHost,
  Values,
} from '../model/types.ts';
import { check, checkLimits, defaults, filled, isEmpty, same, toJson } from '../values/values.ts';

type Listener = () => void;

/** One record of an item of related records, with a form of its own. */
export type FormRow = Row<FormStore>;

/** The records of an item, each with a form of its own. */
export type FormRows = RelatedRows<FormStore>;

/** Told of the keys of a change; of nothing in particular where everything may be different. */
type Watcher = (keys: readonly string[] | undefined) => void;

/** How this page tells the form it has been drawn while designing: nothing that conditions hide disappears. */
export interface StoreOptions {
  showHidden?: boolean;
  /** The record's number; without it the record is not stored yet. */
  record?: number;
}

/** At which widths a form is another one. */
const ranges = (form: ResolvedForm) => form.variants?.map((each) => `${each.name} ${each.from} ${each.below ?? ''}`).join();

/**
 * A form's state: values, what conditions make of them, errors. Plain TypeScript; the components subscribe to single fields and nodes, so
 * that a keystroke redraws one editor and re-evaluates only the conditions that read the field.
 */
export class FormStore {
  private values: Values;
  private saved: Values;
  private readonly names: Map<string, RecordName> = new Map();
  private readonly states = new NodeStates(this);
  private errors = new Map<string, string>();
  private refused = new Map<string, Json>();
  /** Fields that may not be changed any more: what was typed into them stays in sight and is not sent. */
  private barred = new Set<string>();
  private watchers = new Set<Watcher>();
  private readonly related: RelatedItems<FormStore> = new RelatedItems(
    (item) =>
      new RelatedRows<FormStore>(
        item,
        this.form.language,
        this.host,
        (form, values, references) => new FormStore(form, values, references, this.host),
        () => this.notify('values', `related:${item.id}`),
      ),
  );
  private rem = 1000;
  private shownAs: string | undefined;
  content: Content;

  constructor(
    public form: ResolvedForm,
    values: Values,
    references: Record<string, RecordName>,
    readonly host: FormHost,
    private options: StoreOptions = {},
  ) {
    this.content = contentOf(form, this.rem);
    // What a new record begins with nobody has typed: leaving it loses nothing.
    this.saved = form.mode === 'create' ? { ...defaults(form), ...values } : values;
    this.values = { ...this.saved };
    for (const [field, name] of Object.entries(references)) this.names.set(`${field}:${name.id}`, name);
    this.index();
  }

  /**
   * Whether this form can look different from another store's only where its nodes are other objects: while designing, the same record seen
   * with
   * the same eyes, of which nothing is wrong.
   */
  differsInNodesOnly(other: FormStore): boolean {
    const [one, two] = [this.form, other.form];
    return (
      this.designing &&
      other.designing &&
      this.errors.size + other.errors.size === 0 &&
      one.fields === two.fields &&
      one.styles === two.styles &&
      ranges(one) === ranges(two) &&
      one.language === two.language &&
      one.mode === two.mode &&
      one.marks === two.marks &&
      this.host.roles.join() === other.host.roles.join() &&
      JSON.stringify(this.values) === JSON.stringify(other.values)
    );
  }

  /** What is shown at the form's width; follows it live, with everything typed kept. */
  setWidth(rem: number): void {
    const next = contentOf(this.form, rem);
    this.rem = rem;
    if (next.pages === this.content.pages || (this.form.variants === undefined && this.content === this.form)) return;
    if (
      this.form.variants?.some((each) => rem >= each.from && (each.below === undefined || rem < each.below) && each.name === this.shownAs)
    )
      return;
    this.shownAs = this.form.variants?.find((each) => rem >= each.from && (each.below === undefined || rem < each.below))?.name;
    this.content = next;
    this.index();
    this.notifyAll();
  }

  /** What an action sets: each value worked out from the record as it is. */
  apply(values: Record<string, CompiledCondition>): void {
    for (const [field, value] of Object.entries(this.work(values))) this.set(field, value);
  }

  /** Expressions worked out, as the values of fields; what fails is left out. */
  work(values: Record<string, CompiledCondition>): Values {
    const names = this.states.names();
    const worked: Values = {};
    for (const [field, value] of Object.entries(values)) {
      const outcome = evaluate(value, names);
      if (!(outcome instanceof Failure)) worked[field] = toJson(this.form.fields[field] ?? { type: 'date', label: field }, outcome);
    }
    return worked;
  }

  /** Checks what is shown of one page; true when it is right. */
  validatePage(page: Page): boolean {
    let right = true;
    for (const item of itemsIn(page.sections)) {
      if (item.kind !== 'field') continue;
      const problem = this.problem(item.field);
      if (problem === undefined) this.errors.delete(item.field);
      else this.errors.set(item.field, problem);
      right &&= problem === undefined;
    }
    this.notifyAll();
    return right;
  }

  /** The newest form over the same values: what was typed stays, whatever else changes. */
  replaceForm(form: ResolvedForm): void {
    this.form = form;
    this.content = contentOf(form, this.rem);
    // Rows in which nothing was typed are read as the new form has them.
    this.related.dropUntouched();
    this.index();
    this.notifyAll();
  }

  /** What was typed into another form over the same values goes on in this one. */
  goOnFrom(before: FormStore): void {
    for (const [of, name] of before.names) this.names.set(of, name);
    this.values = { ...this.values, ...before.changes() };
    this.index();
    this.putInRelated(before.relatedSaves());
  }

  /** Values of a record that was picked come into fields of this one, each by the name of its own field. */
  copy(field: string, target: string, id: number, copies: Record<string, string>): void {
    void this.host.read?.(target, id).then(
      (values) => {
        // Something else may have been picked since.
        if (this.values[field] !== id) return;
        for (const [ours, theirs] of Object.entries(copies)) this.set(ours, values[theirs] ?? null);
      },
      () => undefined,
    );
  }

  /** The first field that is shown and can be entered. */
  firstField(): string | undefined {
    return [...this.states.items.values()].find((item) => this.states.shown(item.id) && !this.state(item.id).readOnly)?.field;
  }

  /** The item in which a field is entered. */
  fieldItem(field: string): FieldItem | undefined {
    return [...this.states.items.values()].find((item) => item.field === field);
  }

  /** The record's number; undefined while it is not stored. */
  get record(): number | undefined {
    return this.options.record;
  }

  /** The rows of an item of related records; read when they are first asked for. */
  relatedOf(item: RelatedItem): FormRows {
    return this.related.of(item, this.record);
  }

  /** Adds a record to the rows in which such records are shown; false where none are. */
  addRelated(entity: string, through: string, values: Values): boolean {
    const item = [...this.allItems()].find(
      (each): each is RelatedItem =>
        each.kind === 'related' &&
        each.entity === entity &&
        each.through === through &&
        this.states.shown(each.id) &&
        !this.state(each.id).readOnly,
    );
    if (item) this.relatedOf(item).add(values);
    return item !== undefined;
  }

  /** What is to be saved with the record. */
  relatedSaves(): RelatedSave[] {
    return this.related.saves();
  }

  /** Puts changes of related records in again, that were made before over the same ones. */
  putInRelated(saves: RelatedSave[]): void {
    for (const save of saves) {
      const item = [...this.allItems()].find(
        (each): each is RelatedItem => each.kind === 'related' && each.entity === save.entity && each.through === save.through,
      );
      if (item) this.relatedOf(item).putIn(save);
    }
  }

  private *allItems(): Generator<Item> {
    const { start, end, pages } = this.content;
    for (const page of pages) yield* itemsIn(page.sections);
    for (const side of [start, end]) if (side) yield* itemsIn(side.sections);
  }

  /** What was typed goes over what somebody else saved meanwhile, save in fields where theirs is to stand. */
  rebase(theirs: Values, standing: string[]): void {
    const mine = this.changes();
    this.saved = theirs;
    this.values = { ...theirs, ...Object.fromEntries(Object.entries(mine).filter(([field]) => !standing.includes(field))) };
    this.errors.clear();
    this.refused.clear();
    this.index();
    this.notifyAll();
  }

  /**
   * Rights have changed: values that may no longer be read go, and what was typed into fields that may no longer be changed stays, unsaved.
   * Answers those fields.
   */
  heed(readable: ReadonlySet<string>, writable: ReadonlySet<string>): string[] {
    const only = (values: Values) => Object.fromEntries(Object.entries(values).filter(([field]) => readable.has(field)));
    this.values = only(this.values);
    this.saved = only(this.saved);
    for (const key of this.names.keys()) if (!readable.has(key.slice(0, key.lastIndexOf(':')))) this.names.delete(key);
    this.barred = new Set(Object.keys(this.changes()).filter((field) => !writable.has(field)));
    this.index();
    this.notifyAll();
    return [...this.barred];
  }

  /** The values to save: all of a new record, what differs of one that is stored. */
  toSave(): Values {
    const values = this.record === undefined ? filled(this.values) : this.changes();
    return Object.fromEntries(Object.entries(values).filter(([field]) => !this.barred.has(field)));
  }

  /** Another record, or the same one as it was saved. */
  replaceRecord(values: Values, references: Record<string, RecordName>, record = this.record): void {
    this.options = { ...this.options, ...(record === undefined ? {} : { record }) };
    this.related.load(record);
    this.saved = values;
    this.values = { ...values, ...Object.fromEntries([...this.barred].map((field) => [field, this.values[field] ?? null])) };
    for (const [field, name] of Object.entries(references)) this.names.set(`${field}:${name.id}`, name);
    this.errors.clear();
    this.refused.clear();
    this.index();
    this.notifyAll();
  }

  /** Whether designing shows something that these values would hide. */
  isHiddenByValues(id: string): boolean {
    return this.states.isHiddenByValues(id);
  }

  get designing(): boolean {
    return this.options.showHidden === true;
  }

  get(field: string): Json {
    return this.values[field] ?? null;
  }

  set(field: string, value: Json): void {
    if (this.form.mode === 'view' || Object.is(this.values[field] ?? null, value)) return;
    this.values = { ...this.values, [field]: value };
    this.states.take(field);
    // An error is taken back as soon as it is mended, but none is raised while somebody is typing.
    if (this.errors.has(field) && this.problem(field) === undefined) this.errors.delete(field);
    this.states.follow(field);
    this.notify(`field:${field}`, 'values');
  }

  name(field: string): RecordName | undefined {
    return this.names.get(`${field}:${String(this.values[field])}`);
  }

  remember(field: string, name: RecordName): void {
    this.names.set(`${field}:${name.id}`, name);
    this.notify(`field:${field}`, 'values');
  }

  state(id: string): NodeState {
    return this.states.of(id);
  }

  error(field: string): string | undefined {
    return this.errors.get(field);
  }

  /** All errors in the order of the form, those of fields not on it last. */
  problems(): { field: string; id?: string; message: string }[] {
    const placed = [...this.states.items.values()]
      .filter((item) => this.errors.has(item.field))
      .map((item) => ({ field: item.field, id: item.id, message: this.errors.get(item.field)! }));
    const rest = [...this.errors]
      .filter(([field]) => !placed.some((each) => each.field === field))
      .map(([field, message]) => ({ field, message }));
    return [...placed, ...rest, ...this.related.problems((id) => this.states.shown(id))];
  }

  /** On leaving a field: says what is wrong with a value that is there; that one is missing is said only on saving. */
  leave(field: string): void {
    const problem = isEmpty(this.values[field]) ? undefined : this.problem(field);
    if (problem === this.errors.get(field)) return;
    if (problem === undefined) this.errors.delete(field);
    else this.errors.set(field, problem);
    this.notify(`field:${field}`, 'values');
  }

  /** Checks everything that is shown; true when it can be saved. */
  validate(): boolean {
    this.errors.clear();
    for (const item of this.states.items.values()) {
      const problem = this.problem(item.field);
      if (problem !== undefined) this.errors.set(item.field, problem);
    }
    const rows = this.related.validate((id) => this.states.shown(id));
    this.notifyAll();
    return this.errors.size === 0 && rows;
  }

  /** What the service found, in this record and those saved with it; each stays until the value it was said about is changed. */
  showProblems(problems: { field: string; message: string }[]): void {
    this.errors.clear();
    for (const { field, message } of this.related.show(problems)) {
      this.errors.set(field, message);
      this.refused.set(field, this.values[field] ?? null);
    }
    this.notifyAll();
  }

  get dirty(): boolean {
    return Object.keys(this.changes()).length > 0 || this.related.dirty;
  }

  /** Fields whose values differ from what is saved. */
  changes(): Values {
    const changed: Values = {};
    for (const field of new Set([...Object.keys(this.values), ...Object.keys(this.saved)])) {
      const [now, then] = [this.values[field] ?? null, this.saved[field] ?? null];
      if (!same(now, then)) changed[field] = isEmpty(now) ? null : now;
    }
    return changed;
  }

  allValues(): Values {
    return this.values;
  }

  /** Tells of everything that changes; see notify for the keys. */
  watch(watcher: Watcher): () => void {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  }

  /** Tells of one key alone, and of everything that may have changed it. */
  subscribe(key: string, listener: Listener): () => void {
    return this.watch((keys) => {
      if (!keys || keys.includes(key)) listener();
    });
  }

  private problem(field: string): string | undefined {
    const placed = [...this.states.items.values()].filter((item) => item.field === field && this.states.shown(item.id));
    const type = this.form.fields[field];
    const item = placed[0];
    if (!type || !item || placed.every((each) => this.state(each.id).readOnly)) return undefined;
    const required = placed.some((each) => this.state(each.id).required);
    const found =
      check(type, item.label, this.values[field], required, this.form.language) ??
      checkLimits(item, type, this.values[field], this.form.language);
    return (
      found ?? (this.refused.has(field) && same(this.refused.get(field)!, this.values[field] ?? null) ? this.errors.get(field) : undefined)
    );
  }

  private index(): void {
    this.states.index(this.content, Object.keys({ ...this.form.fields, ...this.values }));
  }

  /** Tells whoever watches: field:, node:, related: and a name, values, or content. */
  notify(...keys: string[]): void {
    for (const watcher of [...this.watchers]) watcher(keys);
  }

  private notifyAll(): void {
    for (const watcher of [...this.watchers]) watcher(undefined);
  }
}
