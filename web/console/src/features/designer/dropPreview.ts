import { apply, find, share, type Anchor, type Edit, type NewNode, type TreeNode } from '#layout';

const marks = ['data-dropped', 'data-drop-row', 'data-units'];

/**
 * The form as it will be once edits are done, shown on the form itself while something is dragged: elements are moved to where they will
 * stand, and back. Nothing is drawn anew and nothing is measured, so that it costs what changes and not what a form has.
 */
export class DropPreview {
  /** What was moved, and from where, in its order; and the columns cells had. */
  private readonly moved: { element: HTMLElement; parent: Element | null; next: ChildNode | null }[] = [];
  private readonly columns = new Map<HTMLElement, string>();
  private readonly marked = new Set<HTMLElement>();

  /**
   * @param sheet what the form is drawn on
   * @param draw an item that is not on the form yet, as it will be drawn; nothing where it cannot be told
   */
  constructor(
    private readonly sheet: HTMLElement,
    private readonly draw: (node: NewNode) => HTMLElement | undefined,
  ) {}

  /**
   * Shows what edits come to, in the place of what was shown; answers whether it can be shown.
   * @param words what is said of it on the sheet
   */
  show(tree: TreeNode, edits: readonly Edit[], words?: string): boolean {
    const after = apply(tree, edits).tree;
    this.undo();
    if (!after) return false;
    const left = this.rowsOf(edits);
    const placed: HTMLElement[] = [];
    if (!edits.every((edit) => this.do(edit, tree, placed))) {
      this.undo();
      return false;
    }
    for (const row of new Set([...left, ...this.rowsOf(edits)])) this.share(row, after);
    for (const element of placed) this.mark(element, 'data-dropped', '');
    const row = placed[0]?.closest<HTMLElement>('.bt-row');
    if (row) this.mark(row, 'data-drop-row', words ?? '');
    return true;
  }

  /** The form as it was. */
  undo(): void {
    for (const { element, parent, next } of this.moved.reverse()) {
      if (parent) parent.insertBefore(element, next);
      else element.remove();
    }
    for (const [cell, column] of this.columns) cell.style.gridColumn = column;
    for (const element of this.marked) for (const name of marks) element.removeAttribute(name);
    this.moved.length = 0;
    this.columns.clear();
    this.marked.clear();
  }

  private element(id: string): HTMLElement | null {
    return this.sheet.querySelector<HTMLElement>(`.bt-form [data-node="${CSS.escape(id)}"]`);
  }

  /** One edit done to elements; answers whether it can be. What is placed is gathered. */
  private do(edit: Edit, tree: TreeNode, placed: HTMLElement[]): boolean {
    if (edit.op === 'set') return edit.property === 'span';
    const drawn = edit.op === 'insert' ? null : this.element(edit.node);
    if (edit.op === 'remove') {
      // What is on a page that is not in view is not drawn: there is nothing to take away.
      if (drawn) this.note(drawn);
      drawn?.remove();
      return true;
    }
    // What comes from another page is drawn as if it were new.
    const node = edit.op === 'insert' ? edit.node : find(tree, edit.node);
    if (node?.kind === 'page') return this.turn(edit, node, tree, placed);
    const element = drawn ?? (node && this.make(node, placed));
    const holder = childrenOf(this.element(edit.parent));
    if (!element || !holder) return false;
    this.note(element);
    if (drawn) placed.push(drawn);
    return this.hang(element, holder, edit.at);
  }

  /** A page that goes among others: its tab, step or fold, or where they stand one under another the page itself. */
  private turn(edit: Exclude<Edit, { op: 'set' | 'remove' }>, page: NewNode, tree: TreeNode, placed: HTMLElement[]): boolean {
    const others = find(tree, edit.parent)?.children.filter((each) => each.id !== page.id) ?? [];
    const [beside] = others.flatMap((each) => this.page(each.id) ?? []);
    const element = this.page(page.id ?? '') ?? (edit.op === 'insert' && beside ? newTab(beside, page) : undefined);
    if (!element || !beside?.parentElement) return false;
    this.note(element);
    placed.push(element);
    const at = edit.at;
    if (typeof at === 'string') return this.hang(element, beside.parentElement, at);
    const sibling = this.page('before' in at ? at.before : at.after);
    if (!sibling) return false;
    if ('before' in at) sibling.before(element);
    else sibling.after(element);
    return true;
  }

  private page(id: string): HTMLElement | null {
    const tab = this.sheet.querySelector<HTMLElement>(`.bt-form [data-tab="${CSS.escape(id)}"]`);
    return tab?.closest('li') ?? tab ?? this.element(id);
  }

  private hang(element: HTMLElement, holder: Element, at: Anchor): boolean {
    if (at === 'last') holder.append(element);
    else if (at === 'first') holder.prepend(element);
    else {
      const sibling = this.element('before' in at ? at.before : at.after);
      if (sibling?.parentElement !== holder) return false;
      if ('before' in at) sibling.before(element);
      else sibling.after(element);
    }
    return true;
  }

  private make(node: NewNode, placed: HTMLElement[]): HTMLElement | undefined {
    const kind = { section: 'bt-section', row: 'bt-row', cell: 'bt-cell' }[node.kind as string];
    if (!kind) {
      const drawn = this.draw(node);
      if (drawn) placed.push(drawn);
      return drawn;
    }
    const element = document.createElement(node.kind === 'section' ? 'section' : 'div');
    element.className = kind;
    if (node.id) element.dataset['node'] = node.id;
    const holder = node.kind === 'section' ? document.createElement('div') : element;
    if (holder !== element) {
      holder.className = 'bt-rows';
      element.append(holder);
      placed.push(element);
    }
    for (const child of node.children ?? []) {
      const made = this.make(child, placed);
      if (!made) return undefined;
      holder.append(made);
    }
    return element;
  }

  /** The units of a row's cells as they will be, written on it too. */
  private share(row: HTMLElement, after: TreeNode): void {
    const cells = [...row.children].filter((child): child is HTMLElement => child instanceof HTMLElement && child.matches('.bt-cell'));
    const spans = cells.map((cell) => find(after, cell.dataset['node'] ?? '')?.properties['span']);
    share(spans.map((span) => (typeof span === 'number' ? span : undefined))).forEach((units, i) => {
      const cell = cells[i]!;
      if (!this.columns.has(cell)) this.columns.set(cell, cell.style.gridColumn);
      cell.style.gridColumn = `span ${units}`;
      this.mark(cell, 'data-units', String(units));
    });
  }

  private rowsOf(edits: readonly Edit[]): Set<HTMLElement> {
    const ids = edits.flatMap((edit) =>
      edit.op === 'set' || edit.op === 'remove' ? [edit.node] : [edit.parent, edit.op === 'move' ? edit.node : (edit.node.id ?? '')],
    );
    const rows = ids.map((id) => this.element(id)).map((element) => (element?.matches('.bt-row') ? element : element?.closest('.bt-row')));
    return new Set(rows.filter((row): row is HTMLElement => row instanceof HTMLElement));
  }

  private note(element: HTMLElement): void {
    this.moved.push({ element, parent: element.parentElement, next: element.nextSibling });
  }

  private mark(element: HTMLElement, name: string, value: string): void {
    element.setAttribute(name, value);
    this.marked.add(element);
  }
}

/** A tab beside another, as it will be called; where pages stand one under another there is none. */
function newTab(beside: HTMLElement, page: NewNode): HTMLElement | undefined {
  if (!beside.matches('.bt-tab')) return undefined;
  const tab = beside.cloneNode(false) as HTMLElement;
  for (const name of ['id', 'data-tab', 'aria-selected']) tab.removeAttribute(name);
  tab.textContent = typeof page.properties?.['title'] === 'string' ? page.properties['title'] : '\u00a0';
  return tab;
}

/** What holds the children of a node's element; a section's rows stand in a box of their own. */
const childrenOf = (element: HTMLElement | null): Element | null =>
  element?.matches('.bt-section') ? element.querySelector(':scope > .bt-rows') : element;
