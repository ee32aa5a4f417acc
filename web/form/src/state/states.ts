import { evaluate, Failure, Moment, type Value } from '../conditions/index.ts';
import type { Content, Decision, FieldItem, Item, Json, Page, ResolvedForm, Section, FormHost, Values } from '../model/types.ts';
import { isEmpty, toCondition } from '../values/values.ts';

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
  /** Shows itself whatever becomes of what is in it, as items do, and what holds something that is always there. */
  alone: boolean;
}

/** What the states rest on: the form, its values, and who is told of a change. */
interface Ground {
  readonly form: ResolvedForm;
  readonly host: FormHost;
  readonly designing: boolean;
  get: (field: string) => Json;
  notify: (...keys: string[]) => void;
}

/** What conditions make of a form's nodes. A change of a value decides anew only what reads it, and what holds that. */
export class NodeStates {
  private entries = new Map<string, Entry>();
  private states = new Map<string, NodeState>();
  private readers = new Map<string, Set<string>>();
  private conditionValues: Record<string, Value> = {};
  private content: Content | undefined;
  /** What each node stands in, found when it is first asked for: opening a form does not. */
  private parents: Map<string, string> | undefined;
  /** What is nothing else: always there, free to be changed. */
  private otherwise: NodeState = { visible: true, required: false, readOnly: false };
  /** The names as they are while one change is followed. */
  private known: Record<string, Value> | undefined;
  private calendar: Intl.DateTimeFormat | undefined;
  /** The items in which fields are entered, by id, in the order of the form. */
  items = new Map<string, FieldItem>();

  constructor(private readonly ground: Ground) {}

  /** Takes up a content, and decides everything in it that can be one way or another. */
  index(content: Content, fields: Iterable<string>): void {
    this.content = content;
    this.parents = undefined;
    this.entries = new Map();
    this.readers = new Map();
    this.items = new Map();
    this.otherwise = { visible: true, required: false, readOnly: this.ground.form.mode === 'view' };
    for (const field of fields) this.conditionValues[field] = this.toCondition(field);
    for (const reference of new Set(Object.keys(this.ground.form.steps ?? {}).map(referenceOf))) this.step(reference);
    const { top, bottom, start, end, pages } = content;
    for (const band of [top, bottom]) for (const item of band?.items ?? []) this.addItem(item);
    for (const side of [start, end]) if (side) this.add(side, side.sections, (section) => this.addSection(section));
    for (const page of pages) this.addPage(page);
    this.states = new Map();
    this.known = undefined;
    // Children are added first, since a container without anything to show is not shown.
    for (const id of this.entries.keys()) this.states.set(id, this.decide(id));
  }

  of(id: string): NodeState {
    return this.states.get(id) ?? this.otherwise;
  }

  /** Whether a node is seen: its own condition holds and those of everything round it. */
  shown(id: string): boolean {
    this.parents ??= parentsIn(this.content!);
    for (let at: string | undefined = id; at !== undefined; at = this.parents.get(at)) if (!this.of(at).visible) return false;
    return true;
  }

  /** Whether designing shows something that these values would hide. */
  isHiddenByValues(id: string): boolean {
    const entry = this.entries.get(id);
    return entry?.visible !== undefined && !this.holds(entry.visible, false);
  }

  /** Takes in that a value changed, so that conditions see it. */
  take(field: string): void {
    this.conditionValues[field] = this.toCondition(field);
    const reads = this.stepsOf(field);
    if (reads.length > 0) this.step(field);
    for (const read of reads) this.reevaluate(this.readers.get(read) ?? new Set());
  }

  /** Decides anew what reads a field. */
  follow(field: string): void {
    this.reevaluate(this.readers.get(field) ?? new Set());
  }

  /** The names conditions and expressions know. */
  names(): Record<string, Value> {
    const { form, host } = this.ground;
    const now = host.now();
    this.calendar ??= new Intl.DateTimeFormat('en-CA', { timeZone: host.timeZone });
    const today = this.calendar.format(now);
    return {
      record: this.conditionValues,
      user: { id: host.userId, roles: host.roles },
      mode: form.mode,
      locale: form.language,
      today: Moment.ofMs(Date.parse(`${today}T00:00:00Z`)),
      now: Moment.ofMs(now.getTime()),
    };
  }

  private addPage(page: Page): Entry | undefined {
    return this.add(page, page.sections, (section) => this.addSection(section));
  }

  private addSection(section: Section): Entry | undefined {
    return this.add(section, section.rows, (row) =>
      this.add(row, row.cells, (cell) => (cell.items.length === 0 ? undefined : this.add(cell, cell.items, (item) => this.addItem(item)))),
    );
  }

  private addItem(item: Item): Entry | undefined {
    if (item.kind === 'field') this.items.set(item.id, item);
    return item.kind === 'panel' ? this.add(item, item.pages, (page) => this.addPage(page)) : this.add(item);
  }

  /**
   * Takes up a node, what it holds first; answers its entry where it can be one way or another: where a condition decides about it, where
   * something in it
   * may go, or where it holds nothing at all. The rest of a form, most of it, is simply there.
   */
  private add<N>(
    node: { id: string; visible?: Decision; required?: Decision; readOnly?: Decision },
    holds?: readonly N[],
    each?: (held: N) => Entry | undefined,
  ): Entry | undefined {
    let children: string[] | undefined;
    let always = holds === undefined;
    for (const held of holds ?? []) {
      const entry = each!(held);
      if (entry) (children ??= []).push(entry.id);
      // What cannot go keeps its container there.
      if (!entry || (entry.visible === undefined && entry.alone)) always = true;
    }
    if (children === undefined && always && node.visible === undefined && node.required === undefined && node.readOnly === undefined)
      return undefined;
    const entry: Entry = { id: node.id, children: children ?? [], alone: always, ...pick(node) };
    this.entries.set(node.id, entry);
    for (const child of entry.children) this.entries.get(child)!.parent = node.id;
    this.heed(entry);
    return entry;
  }

  private heed(entry: Entry): void {
    for (const decision of [entry.visible, entry.required, entry.readOnly]) {
      if (decision === undefined || decision === true) continue;
      for (const read of decision.reads) this.readers.set(read, (this.readers.get(read) ?? new Set()).add(entry.id));
    }
  }

  /**
   * Conditions step through a reference: an empty one leads to nothing, another to a record that is fetched, once for all of them; until it
   * is here, and where it cannot be had, they are closed.
   */
  private step(reference: string): void {
    const { ground } = this;
    const id = ground.get(reference);
    const reads = this.stepsOf(reference);
    for (const read of reads) {
      if (isEmpty(id)) this.conditionValues[read] = null;
      else delete this.conditionValues[read];
    }
    const target = ground.form.fields[reference]?.target;
    if (isEmpty(id) || !target || !ground.host.read) return;
    const take = (values: Values) => {
      if (ground.get(reference) !== id) return;
      for (const read of reads) {
        this.conditionValues[read] = toCondition({ type: ground.form.steps![read]! }, values[read.slice(reference.length + 1)]);
        this.reevaluate(this.readers.get(read) ?? new Set());
      }
      ground.notify('values');
    };
    ground.host.read(target, Number(id)).then(take, () => undefined);
  }

  private stepsOf(reference: string): string[] {
    return Object.keys(this.ground.form.steps ?? {}).filter((read) => referenceOf(read) === reference);
  }

  private decide(id: string): NodeState {
    const entry = this.entries.get(id)!;
    const own = entry.visible === undefined || this.holds(entry.visible, false);
    const content = entry.alone || entry.children.some((child) => this.states.get(child)?.visible);
    return {
      visible: this.ground.designing || (own && content),
      required: entry.required !== undefined && this.holds(entry.required, false),
      readOnly: this.ground.form.mode === 'view' || (entry.readOnly !== undefined && this.holds(entry.readOnly, true)),
    };
  }

  /** A condition that fails is closed: visible and required do not hold, read-only does. */
  private holds(decision: Decision, whenFailing: boolean): boolean {
    if (decision === true) return true;
    const outcome = evaluate(decision.when, (this.known ??= this.names()));
    return outcome instanceof Failure || typeof outcome !== 'boolean' ? whenFailing : outcome;
  }

  private reevaluate(ids: Set<string>): void {
    const waiting = [...ids];
    this.known = undefined;
    for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
      const [before, after] = [this.states.get(id), this.decide(id)];
      if (before && before.visible === after.visible && before.required === after.required && before.readOnly === after.readOnly) continue;
      this.states.set(id, after);
      this.ground.notify(`node:${id}`);
      const parent = this.entries.get(id)?.parent;
      if (parent !== undefined && before?.visible !== after.visible) {
        waiting.push(parent);
        // A row shares its units among the cells that are shown.
        this.ground.notify(`node:${parent}`);
      }
    }
  }

  private toCondition(field: string): Value {
    const type = this.ground.form.fields[field];
    return type ? toCondition(type, this.ground.get(field)) : (this.ground.get(field) as Value);
  }
}

/** The reference a step goes through: berth of berth.zone. */
const referenceOf = (read: string) => read.slice(0, read.indexOf('.'));

function parentsIn({ start, end, pages }: Content): Map<string, string> {
  const parents = new Map<string, string>();
  const section = (each: Section, parent: string) => {
    parents.set(each.id, parent);
    for (const row of each.rows) {
      parents.set(row.id, each.id);
      for (const cell of row.cells) {
        parents.set(cell.id, row.id);
        for (const item of cell.items) {
          parents.set(item.id, cell.id);
          if (item.kind === 'panel')
            for (const page of item.pages) {
              parents.set(page.id, item.id);
              page.sections.forEach((inner) => section(inner, page.id));
            }
        }
      }
    }
  };
  for (const page of [...pages, ...(start ? [start] : []), ...(end ? [end] : [])]) page.sections.forEach((each) => section(each, page.id));
  return parents;
}

function pick(node: { visible?: Decision; required?: Decision; readOnly?: Decision }) {
  return {
    ...(node.visible === undefined ? {} : { visible: node.visible }),
    ...(node.required === undefined ? {} : { required: node.required }),
    ...(node.readOnly === undefined ? {} : { readOnly: node.readOnly }),
  };
}
