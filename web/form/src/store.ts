import { evaluate, Failure, Moment, type Value } from './conditions/index.ts';
import { contentOf, itemsIn } from './content.ts';
import { RelatedRows, type Row } from './related.ts';
import type { Compiled, Content, Decision, FieldItem, FieldType, Item, Json, Page, RecordName, RelatedItem, RelatedSave, ResolvedForm, Section, Surroundings, Values } from './types.ts';
import { check, checkLimits, isEmpty, toCondition, toJson } from './values.ts';

/** What the form knows about one of its nodes right now. */
export interface NodeState {
  visible: boolean;
  required: boolean;
  readOnly: boolean;
}

interface Entry {
  id: string;
  parent?: string;
  children: string[];
  visible?: Decision;
  required?: Decision;
  readOnly?: Decision;
  /** Shows itself without anything in it, as items and cells left empty do. */
  alone: boolean;
}

type Listener = () => void;

/** How this page tells the form it has been drawn while designing: nothing that conditions hide disappears. */
export interface StoreOptions {
  showHidden?: boolean;
  /** The record's number; without it the record is not stored yet. */
  record?: number;
}

/**
 * A form's state: values, what conditions make of them, errors. Plain TypeScript; the components subscribe to single fields and nodes, so
 * that a keystroke redraws one editor and re-evaluates only the conditions that read the field.
 */
export class FormStore {
  private values: Values;
  private saved: Values;
  private readonly names: Map<string, RecordName> = new Map();
  private entries = new Map<string, Entry>();
  private states = new Map<string, NodeState>();
  private readers = new Map<string, Set<string>>();
  private items = new Map<string, FieldItem>();
  private errors = new Map<string, string>();
  private refused = new Map<string, Json>();
  private listeners = new Map<string, Set<Listener>>();
  private conditionValues: Record<string, Value> = {};
  private version = 0;
  private readonly related = new Map<string, RelatedRows>();
  private rem = 1000;
  private shownAs: string | undefined;
  content: Content;

  constructor(
    public form: ResolvedForm,
    values: Values,
    references: Record<string, RecordName>,
    readonly surroundings: Surroundings,
    private options: StoreOptions = {},
  ) {
    this.content = contentOf(form, this.rem);
    this.saved = values;
    this.values = form.mode === 'create' ? { ...defaults(form), ...values } : { ...values };
    for (const [field, name] of Object.entries(references)) this.names.set(`${field}:${name.id}`, name);
    this.index();
  }

  /** What is shown at the form's width; follows it live, with everything typed kept. */
  setWidth(rem: number): void {
    const next = contentOf(this.form, rem);
    this.rem = rem;
    if (next.pages === this.content.pages || (this.form.variants === undefined && this.content === this.form)) return;
    if (this.form.variants?.some((each) => rem >= each.from && (each.below === undefined || rem < each.below) && each.name === this.shownAs)) return;
    this.shownAs = this.form.variants?.find((each) => rem >= each.from && (each.below === undefined || rem < each.below))?.name;
    this.content = next;
    this.index();
    this.notifyAll();
  }

  /** What an action sets: each value worked out from the record as it is. */
  apply(values: Record<string, Compiled>): void {
    for (const [field, value] of Object.entries(this.work(values))) this.set(field, value);
  }

  /** Expressions worked out, as the values of fields; what fails is left out. */
  work(values: Record<string, Compiled>): Values {
    const names = this.conditionNames();
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
    for (const [id, rows] of this.related) if (!rows.dirty) this.related.delete(id);
    this.index();
    this.notifyAll();
  }

  /** Values of a record that was picked come into fields of this one, each by the name of its own field. */
  copy(field: string, target: string, id: number, copies: Record<string, string>): void {
    void this.surroundings.read?.(target, id).then((values) => {
      // Something else may have been picked since.
      if (this.values[field] !== id) return;
      for (const [ours, theirs] of Object.entries(copies)) this.set(ours, values[theirs] ?? null);
    }, () => undefined);
  }

  /** The first field that is shown and can be entered. */
  firstField(): string | undefined {
    return [...this.items.values()].find((item) => this.shown(item.id) && !this.state(item.id).readOnly)?.field;
  }

  /** The item in which a field is entered. */
  fieldItem(field: string): FieldItem | undefined {
    return [...this.items.values()].find((item) => item.field === field);
  }

  /** The record's number; undefined while it is not stored. */
  get record(): number | undefined {
    return this.options.record;
  }

  /** The rows of an item of related records; read when they are first asked for. */
  relatedOf(item: RelatedItem): RelatedRows {
    let rows = this.related.get(item.id);
    if (!rows) {
      rows = new RelatedRows(item, this.form.language, this.surroundings, (form, values, references) => new FormStore(form, values, references, this.surroundings), () => this.notify('values', `related:${item.id}`));
      this.related.set(item.id, rows);
      void rows.load(this.record);
    }
    return rows;
  }

  /** Adds a record to the rows in which such records are shown; false where none are. */
  addRelated(entity: string, through: string, values: Values): boolean {
    const item = [...this.allItems()].find((each): each is RelatedItem => each.kind === 'related' && each.entity === entity && each.through === through && this.shown(each.id) && !this.state(each.id).readOnly);
    if (item) this.relatedOf(item).add(values);
    return item !== undefined;
  }

  /** What is to be saved with the record. */
  relatedSaves(): RelatedSave[] {
    return [...this.related.values()].flatMap((rows) => rows.save()?.save ?? []);
  }

  /** Puts what the service found in related rows where it belongs; the rest is given back. */
  showRelatedProblems(problems: { field: string; message: string }[]): { field: string; message: string }[] {
    const saves = [...this.related.values()].flatMap((rows) => rows.save() ?? []);
    const byRow = new Map<Row, { field: string; message: string }[]>();
    const others = problems.filter(({ field: pointer, message }) => {
      const [, save, list, at, field] = /^\/related\/(\d+)\/(created|changed)\/(\d+)\/(.+)$/.exec(pointer) ?? [];
      const row = save && saves[Number(save)]?.[list as 'created' | 'changed'][Number(at)];
      if (!row) return true;
      byRow.set(row, [...(byRow.get(row) ?? []), { field: field!, message }]);
      return false;
    });
    for (const [row, found] of byRow) row.store.showProblems(found);
    return others;
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

  /** Another record, or the same one as it was saved. */
  replaceRecord(values: Values, references: Record<string, RecordName>, record = this.record): void {
    this.options = { ...this.options, ...(record === undefined ? {} : { record }) };
    for (const rows of this.related.values()) void rows.load(record);
    this.saved = values;
    this.values = { ...values };
    for (const [field, name] of Object.entries(references)) this.names.set(`${field}:${name.id}`, name);
    this.errors.clear();
    this.refused.clear();
    this.index();
    this.notifyAll();
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
    this.conditionValues[field] = this.toCondition(field);
    for (const read of this.readers.keys()) {
      if (read.startsWith(`${field}.`)) {
        this.step(read, field);
        this.reevaluate(this.readers.get(read)!);
      }
    }
    // An error is taken back as soon as it is mended, but none is raised while somebody is typing.
    if (this.errors.has(field) && this.problem(field) === undefined) this.errors.delete(field);
    this.reevaluate(this.readers.get(field) ?? new Set());
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
    return this.states.get(id) ?? { visible: true, required: false, readOnly: false };
  }

  error(field: string): string | undefined {
    return this.errors.get(field);
  }

  /** All errors in the order of the form, those of fields not on it last. */
  problems(): { field: string; id?: string; message: string }[] {
    const placed = [...this.items.values()].filter((item) => this.errors.has(item.field)).map((item) => ({ field: item.field, id: item.id, message: this.errors.get(item.field)! }));
    const rest = [...this.errors].filter(([field]) => !placed.some((each) => each.field === field)).map(([field, message]) => ({ field, message }));
    const rows = [...this.related.values()].filter((each) => this.shown(each.item.id)).flatMap((each) => each.rows.flatMap((row, i) => row.store.problems().map((problem) => ({ field: problem.field, id: each.item.id, message: `${each.item.label}, ${i + 1}: ${problem.message}` }))));
    return [...placed, ...rest, ...rows];
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
    for (const item of this.items.values()) {
      const problem = this.problem(item.field);
      if (problem !== undefined) this.errors.set(item.field, problem);
    }
    const rows = [...this.related.values()].map((each) => !this.shown(each.item.id) || each.validate()).every(Boolean);
    this.notifyAll();
    return this.errors.size === 0 && rows;
  }

  /** What the service found; each stays until the value it was said about is changed. */
  showProblems(problems: { field: string; message: string }[]): void {
    this.errors.clear();
    for (const { field, message } of problems) {
      this.errors.set(field, message);
      this.refused.set(field, this.values[field] ?? null);
    }
    this.notifyAll();
  }

  get dirty(): boolean {
    return Object.keys(this.changes()).length > 0 || [...this.related.values()].some((rows) => rows.dirty);
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

  subscribe(key: string, listener: Listener): () => void {
    const set = this.listeners.get(key) ?? new Set();
    this.listeners.set(key, set.add(listener));
    return () => set.delete(listener);
  }

  /** Counts every change; what useSyncExternalStore compares where no single value will do. */
  get revision(): number {
    return this.version;
  }

  private problem(field: string): string | undefined {
    const placed = [...this.items.values()].filter((item) => item.field === field && this.shown(item.id));
    const type = this.form.fields[field];
    const item = placed[0];
    if (!type || !item || placed.every((each) => this.state(each.id).readOnly)) return undefined;
    const required = placed.some((each) => this.state(each.id).required);
    const found = check(type, item.label, this.values[field], required, this.form.language) ?? checkLimits(item, type, this.values[field], this.form.language);
    return found ?? (this.refused.has(field) && same(this.refused.get(field)!, this.values[field] ?? null) ? this.errors.get(field) : undefined);
  }

  private index(): void {
    this.entries = new Map();
    this.readers = new Map();
    this.items = new Map();
    for (const field of Object.keys({ ...this.form.fields, ...this.values })) this.conditionValues[field] = this.toCondition(field);
    const { top, bottom, start, end, pages } = this.content;
    for (const band of [top, bottom]) for (const item of band?.items ?? []) this.addItem(undefined, item);
    for (const side of [start, end]) {
      if (!side) continue;
      this.add(side.id, undefined, side);
      this.addSections(side.id, side.sections);
    }
    this.addPages(undefined, pages);
    this.states = new Map();
    // Children first, since a container without anything to show is not shown.
    for (const id of [...this.entries.keys()].reverse()) this.states.set(id, this.decide(id));
  }

  private addPages(parent: string | undefined, pages: Page[]): void {
    for (const page of pages) {
      this.add(page.id, parent, page);
      this.addSections(page.id, page.sections);
    }
  }

  private addSections(parent: string, sections: Section[]): void {
    for (const section of sections) {
      this.add(section.id, parent, section);
      for (const row of section.rows) {
        this.add(row.id, section.id, {});
        for (const cell of row.cells) {
          this.add(cell.id, row.id, {});
          this.entries.get(cell.id)!.alone = cell.items.length === 0;
          for (const item of cell.items) this.addItem(cell.id, item);
        }
      }
    }
  }

  private addItem(cell: string | undefined, item: Item): void {
    this.add(item.id, cell, item);
    if (item.kind === 'panel') this.addPages(item.id, item.pages);
    else this.entries.get(item.id)!.alone = true;
    if (item.kind === 'field') this.items.set(item.id, item);
  }

  private add(id: string, parent: string | undefined, node: { visible?: Decision; required?: Decision; readOnly?: Decision }): void {
    this.entries.set(id, { id, ...(parent === undefined ? {} : { parent }), children: [], alone: false, ...pick(node) });
    if (parent !== undefined) this.entries.get(parent)!.children.push(id);
    for (const decision of [node.visible, node.required, node.readOnly]) {
      if (decision === undefined || decision === true) continue;
      for (const read of decision.reads) {
        this.readers.set(read, (this.readers.get(read) ?? new Set()).add(id));
        const reference = read.split('.')[0]!;
        if (reference !== read) this.step(read, reference);
      }
    }
  }

  /** A condition steps through a reference: an empty one leads to nothing, another to a record that is fetched; until it is here the condition is closed. */
  private step(read: string, reference: string): void {
    const id = this.values[reference];
    const target = this.form.fields[reference]?.target;
    if (isEmpty(id)) this.conditionValues[read] = null;
    else {
      delete this.conditionValues[read];
      if (target && this.surroundings.read) {
        void this.surroundings.read(target, Number(id)).then((values) => {
          if (this.values[reference] !== id) return;
          const value = values[read.slice(reference.length + 1)] ?? null;
          this.conditionValues[read] = typeof value === 'number' && Number.isInteger(value) ? BigInt(value) : (value as Value);
          this.reevaluate(this.readers.get(read) ?? new Set());
          this.notify('values');
        });
      }
    }
  }

  private decide(id: string): NodeState {
    const entry = this.entries.get(id)!;
    const own = entry.visible === undefined || this.holds(entry.visible, false);
    const content = entry.alone || entry.children.some((child) => this.states.get(child)?.visible);
    return {
      visible: this.options.showHidden === true || (own && content),
      required: entry.required !== undefined && this.holds(entry.required, false),
      readOnly: this.form.mode === 'view' || (entry.readOnly !== undefined && this.holds(entry.readOnly, true)),
    };
  }

  /** Whether a node is seen: its own condition holds and those of everything round it. */
  private shown(id: string): boolean {
    for (let at: string | undefined = id; at !== undefined; at = this.entries.get(at)?.parent) if (!this.state(at).visible) return false;
    return true;
  }

  /** Whether designing shows something that these values would hide. */
  isHiddenByValues(id: string): boolean {
    const entry = this.entries.get(id);
    return entry?.visible !== undefined && !this.holds(entry.visible, false);
  }

  /** A condition that fails is closed: visible and required do not hold, read-only does. */
  private holds(decision: Decision, whenFailing: boolean): boolean {
    if (decision === true) return true;
    const outcome = evaluate(decision.when, this.conditionNames());
    return outcome instanceof Failure || typeof outcome !== 'boolean' ? whenFailing : outcome;
  }

  /** The names conditions know. */
  private conditionNames(): Record<string, Value> {
    const now = this.surroundings.now();
    const today = new Intl.DateTimeFormat('en-CA', { timeZone: this.surroundings.timeZone }).format(now);
    return {
      record: this.conditionValues,
      user: { id: this.surroundings.userId, roles: this.surroundings.roles },
      mode: this.form.mode,
      locale: this.form.language,
      today: Moment.ofMs(Date.parse(`${today}T00:00:00Z`)),
      now: Moment.ofMs(now.getTime()),
    };
  }

  private reevaluate(ids: Set<string>): void {
    const waiting = [...ids];
    for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
      const [before, after] = [this.states.get(id), this.decide(id)];
      if (before && before.visible === after.visible && before.required === after.required && before.readOnly === after.readOnly) continue;
      this.states.set(id, after);
      this.notify(`node:${id}`);
      const parent = this.entries.get(id)?.parent;
      if (parent !== undefined && before?.visible !== after.visible) {
        waiting.push(parent);
        // A row shares its units among the cells that are shown.
        this.notify(`node:${parent}`);
      }
    }
  }

  private toCondition(field: string): Value {
    const type: FieldType | undefined = this.form.fields[field];
    return type ? toCondition(type, this.values[field]) : ((this.values[field] ?? null) as Value);
  }

  private notify(...keys: string[]): void {
    this.version++;
    for (const key of keys) for (const listener of this.listeners.get(key) ?? []) listener();
  }

  private notifyAll(): void {
    this.notify(...this.listeners.keys());
  }
}

function pick(node: { visible?: Decision; required?: Decision; readOnly?: Decision }) {
  return {
    ...(node.visible === undefined ? {} : { visible: node.visible }),
    ...(node.required === undefined ? {} : { required: node.required }),
    ...(node.readOnly === undefined ? {} : { readOnly: node.readOnly }),
  };
}

function defaults(form: ResolvedForm): Values {
  const values: Values = {};
  for (const [key, field] of Object.entries(form.fields)) {
    if (field.default === undefined) continue;
    values[key] = field.type === 'boolean' ? field.default === 'true' : ['integer', 'decimal', 'money', 'rating', 'reference'].includes(field.type) ? Number(field.default) : field.default;
  }
  return values;
}

function same(a: Json, b: Json): boolean {
  if (isEmpty(a) && isEmpty(b)) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((each, i) => each === b[i]);
  return a === b;
}
