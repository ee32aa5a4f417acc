import type { FieldItem, Json, RecordName, RecordRow, RelatedItem, RelatedSave, ResolvedForm, FormHost, Values } from '../model/types.ts';
import { filled } from '../values/values.ts';

/** The form of a row, as its rows need it; FormStore is one. */
export interface RowStore {
  readonly dirty: boolean;
  get: (field: string) => Json;
  set: (field: string, value: Json) => void;
  remember: (field: string, name: RecordName) => void;
  allValues: () => Values;
  changes: () => Values;
  validate: () => boolean;
  problems: () => { field: string; message: string }[];
  showProblems: (problems: { field: string; message: string }[]) => void;
  subscribe: (key: string, listener: () => void) => unknown;
}

/** One record that points at the one in the form: a form of its own over the fields that are shown. */
export interface Row<Store extends RowStore = RowStore> {
  key: number;
  id?: number;
  version?: number;
  store: Store;
}

const plain: Record<string, string> = {
  text: 'line',
  longText: 'line',
  integer: 'number',
  decimal: 'number',
  money: 'number',
  boolean: 'check',
  date: 'date',
  time: 'time',
  dateTime: 'date-time',
  choice: 'select',
  choices: 'checks',
  reference: 'look-up',
  email: 'e-mail',
  phone: 'phone',
  url: 'web-address',
  image: 'image',
  file: 'file',
  rating: 'number',
};

/** The fields of a row as a form of one row of cells. */
function rowForm(item: RelatedItem, language: string, mode: ResolvedForm['mode']): ResolvedForm {
  const items = (item.shows ?? []).map((key): FieldItem => {
    const type = item.fields[key]!;
    return {
      id: key,
      kind: 'field',
      field: key,
      label: type.label,
      editor: plain[type.type] ?? 'line',
      lines: 1,
      ...(type.required ? { required: true as const } : {}),
    };
  });
  return {
    layout: item.id,
    entity: item.entity,
    kind: 'full',
    mode,
    language,
    title: '',
    width: 'full',
    density: 'dense',
    marks: 'none',
    arrangement: 'stack',
    fields: item.fields,
    pages: [
      {
        id: 'page',
        title: '',
        sections: [
          {
            id: 'section',
            frame: 'none',
            labels: 'above',
            columns: items.length,
            rows: [
              {
                id: 'row',
                cells: items.map((each) => ({ id: `${each.id}-cell`, span: Math.max(1, Math.floor(12 / items.length)), items: [each] })),
              },
            ],
          },
        ],
      },
    ],
  };
}

/** The records an item shows, as they are stored and as they were changed here; saved together with the record they point at. */
export class RelatedRows<Store extends RowStore = RowStore> {
  rows: Row<Store>[] = [];
  state: 'loading' | 'here' | 'failed' = 'here';
  private removed: { id: number; version: number }[] = [];
  private made = 0;
  /** What was changed before and is put in as soon as the rows are here. */
  private waiting: RelatedSave | undefined;

  constructor(
    readonly item: RelatedItem,
    private readonly language: string,
    private readonly host: FormHost,
    /** Makes the form of a row. */
    private readonly make: (form: ResolvedForm, values: Values, references: RecordRow['references']) => Store,
    private readonly changed: () => void,
  ) {}

  /** Reads what is stored; what was changed here is dropped. */
  async load(record: number | undefined): Promise<void> {
    this.removed = [];
    if (record === undefined || !this.host.readRelated) {
      this.rows = [];
      this.changed();
      return;
    }
    this.state = 'loading';
    try {
      const found = await this.host.readRelated(this.item.entity, this.item.through, record, this.item.sort ?? []);
      this.rows = found.map((row) => this.row(row));
      this.state = 'here';
      if (this.waiting) this.putIn(this.waiting);
      this.waiting = undefined;
    } catch {
      this.state = 'failed';
    }
    this.changed();
  }

  add(values: Values = {}): Row<Store> {
    const { order } = this.item;
    // Where the others have no numbers yet, neither has this one: they stand in the order in which they were made.
    const numbers = order ? this.rows.map((each) => Number(each.store.get(order)) || 0) : [0];
    const row = this.row(
      undefined,
      order && values[order] === undefined && numbers.every(Boolean) ? { ...values, [order]: Math.max(0, ...numbers) + 1 } : values,
    );
    for (const [field, value] of Object.entries(values)) {
      const target = this.item.fields[field]?.target;
      // A row that is put in again points at records whose names are not here yet.
      if (target && typeof value === 'number')
        this.host.lookUp(target, '', { ids: [value] }).then(
          ([name]) => {
            if (name) row.store.remember(field, name);
          },
          () => undefined,
        );
    }
    this.rows = [...this.rows, row];
    this.changed();
    return row;
  }

  /** Moves a row to another place among the others; every row's number follows. */
  move(row: Row<Store>, to: number): void {
    const { order } = this.item;
    const others = this.rows.filter((each) => each !== row);
    if (!order || to < 0 || to > others.length) return;
    this.rows = [...others.slice(0, to), row, ...others.slice(to)];
    this.rows.forEach((each, i) => each.store.set(order, i + 1));
    this.changed();
  }

  /** What was changed before over the rows as they are stored. */
  putIn(save: RelatedSave): void {
    if (this.state === 'loading') {
      this.waiting = save;
      return;
    }
    for (const { id, values } of save.changed) {
      const row = this.rows.find((each) => each.id === id);
      for (const [field, value] of Object.entries(values)) row?.store.set(field, value);
    }
    for (const { id } of save.removed) {
      const row = this.rows.find((each) => each.id === id);
      if (row) this.remove(row);
    }
    for (const values of save.created) this.add(values);
    const { order } = this.item;
    if (order) this.rows.sort((one, other) => (Number(one.store.get(order)) || Infinity) - (Number(other.store.get(order)) || Infinity));
    this.changed();
  }

  remove(row: Row<Store>): void {
    this.rows = this.rows.filter((each) => each !== row);
    if (row.id !== undefined) this.removed.push({ id: row.id, version: row.version! });
    this.changed();
  }

  get dirty(): boolean {
    return this.removed.length > 0 || this.rows.some((row) => row.id === undefined || row.store.dirty);
  }

  validate(): boolean {
    return this.rows.map((row) => row.store.validate()).every(Boolean);
  }

  /** What to save, with the rows in the order in which it names them. */
  save(): { save: RelatedSave; created: Row<Store>[]; changed: Row<Store>[] } | undefined {
    if (!this.dirty) return undefined;
    const created = this.rows.filter((row) => row.id === undefined);
    const changed = this.rows.filter((row) => row.id !== undefined && row.store.dirty);
    return {
      created,
      changed,
      save: {
        entity: this.item.entity,
        through: this.item.through,
        created: created.map((row) => filled(row.store.allValues())),
        changed: changed.map((row) => ({ id: row.id!, version: row.version!, values: row.store.changes() })),
        removed: this.removed,
      },
    };
  }

  /** The sum of a field over all rows. */
  total(field: string): number {
    return this.rows.reduce((sum, row) => sum + (typeof row.store.get(field) === 'number' ? (row.store.get(field) as number) : 0), 0);
  }

  private row(record?: RecordRow, values?: Values): Row<Store> {
    const store = this.make(
      rowForm(this.item, this.language, record ? 'edit' : 'create'),
      record?.values ?? values ?? {},
      record?.references ?? {},
    );
    store.subscribe('values', this.changed);
    return { key: ++this.made, store, ...(record ? { id: record.id, version: record.version } : {}) };
  }
}

/** What is wrong with a field, by its key or by the service's pointer to it. */
interface Wrong {
  field: string;
  message: string;
}

/** The rows of all items of related records in one form. */
export class RelatedItems<Store extends RowStore = RowStore> {
  private readonly all = new Map<string, RelatedRows<Store>>();

  constructor(private readonly make: (item: RelatedItem) => RelatedRows<Store>) {}

  /** The rows of an item; read when they are first asked for. */
  of(item: RelatedItem, record: number | undefined): RelatedRows<Store> {
    let rows = this.all.get(item.id);
    if (!rows) {
      rows = this.make(item);
      this.all.set(item.id, rows);
      void rows.load(record);
    }
    return rows;
  }

  /** Reads everything anew. */
  load(record: number | undefined): void {
    for (const rows of this.all.values()) void rows.load(record);
  }

  /** Rows in which nothing was typed go, to be read as a new form has them. */
  dropUntouched(): void {
    for (const [id, rows] of this.all) if (!rows.dirty) this.all.delete(id);
  }

  get dirty(): boolean {
    return [...this.all.values()].some((rows) => rows.dirty);
  }

  /** What is to be saved with the record. */
  saves(): RelatedSave[] {
    return [...this.all.values()].flatMap((rows) => rows.save()?.save ?? []);
  }

  /** Checks the rows of items that are shown, every one of them. */
  validate(shown: (id: string) => boolean): boolean {
    return [...this.all.values()].map((rows) => !shown(rows.item.id) || rows.validate()).every(Boolean);
  }

  /** What is wrong in the rows of items that are shown, each with the number of its row. */
  problems(shown: (id: string) => boolean): (Wrong & { id: string })[] {
    return [...this.all.values()]
      .filter(({ item }) => shown(item.id))
      .flatMap(({ item, rows }) =>
        rows.flatMap((row, i) =>
          row.store.problems().map(({ field, message }) => ({ field, id: item.id, message: `${item.label}, ${i + 1}: ${message}` })),
        ),
      );
  }

  /** Puts what the service found into the rows it is about; the rest is given back. */
  show(problems: Wrong[]): Wrong[] {
    const saves = [...this.all.values()].flatMap((rows) => rows.save() ?? []);
    const byRow = new Map<Row<Store>, Wrong[]>();
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
}
