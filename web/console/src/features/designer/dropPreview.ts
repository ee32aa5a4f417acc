import { apply, find, share, type Anchor, type Edit, type NewNode, type TreeNode } from '#layout';

/** How long what gives way takes to get there, in milliseconds. */
const motion = 120;

const marks = ['data-dropped', 'data-drop-row', 'data-units'];

/**
 * The form as it will be once edits are done, shown on the form itself while something is dragged: elements are moved to where they will
 * stand, and back. Nothing is drawn anew, so that it costs what changes and not what a form has.
 */
export class DropPreview {
  /** What each element held before anything was shown, and the columns of cells. */
  private readonly held = new Map<Element, ChildNode[]>();
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
    this.undo();
    const after = apply(tree, edits).tree;
    if (!after) return false;
    const left = this.rowsOf(edits);
    const before = measure(left);
    const placed: HTMLElement[] = [];
    if (!edits.every((edit) => this.do(edit, placed))) {
      this.undo();
      return false;
    }
    for (const row of new Set([...left, ...this.rowsOf(edits)])) this.share(row, after);
    for (const element of placed) this.mark(element, 'data-dropped', '');
    const row = placed[0]?.closest<HTMLElement>('.bt-row');
    if (row) this.mark(row, 'data-drop-row', words ?? '');
    glide(before);
    return true;
  }

  /** The form as it was. */
  undo(): void {
    for (const [element, children] of this.held) element.replaceChildren(...children);
    for (const [cell, column] of this.columns) cell.style.gridColumn = column;
    for (const element of this.marked) for (const name of marks) element.removeAttribute(name);
    this.held.clear();
    this.columns.clear();
    this.marked.clear();
  }

  private element(id: string): HTMLElement | null {
    return this.sheet.querySelector<HTMLElement>(`.bt-form [data-node="${CSS.escape(id)}"]`);
  }

  /** One edit done to elements; answers whether it can be. What is placed is gathered. */
  private do(edit: Edit, placed: HTMLElement[]): boolean {
    if (edit.op === 'set') return edit.property === 'span';
    if (edit.op === 'remove') {
      const element = this.element(edit.node);
      if (element?.parentElement) this.hold(element.parentElement);
      element?.remove();
      return element !== null;
    }
    const element = edit.op === 'move' ? this.element(edit.node) : this.make(edit.node, placed);
    const holder = childrenOf(this.element(edit.parent));
    if (!element || !holder) return false;
    if (element.parentElement) this.hold(element.parentElement);
    this.hold(holder);
    if (edit.op === 'move') placed.push(element);
    return this.hang(element, holder, edit.at);
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

  private hold(element: Element): void {
    if (!this.held.has(element)) this.held.set(element, [...element.childNodes]);
  }

  private mark(element: HTMLElement, name: string, value: string): void {
    element.setAttribute(name, value);
    this.marked.add(element);
  }
}

/** Where what may give way stands: the rows of the sections that are changed, and the cells of the rows; nothing where nothing may move. */
function measure(rows: Iterable<HTMLElement>): Map<HTMLElement, DOMRect> {
  const found = new Map<HTMLElement, DOMRect>();
  if (matchMedia('(prefers-reduced-motion: reduce)').matches) return found;
  for (const row of rows) {
    for (const each of row.parentElement?.children ?? []) found.set(each as HTMLElement, each.getBoundingClientRect());
    for (const each of row.children) found.set(each as HTMLElement, each.getBoundingClientRect());
  }
  return found;
}

/** What holds the children of a node's element; a section's rows stand in a box of their own. */
const childrenOf = (element: HTMLElement | null): Element | null =>
  element?.matches('.bt-section') ? element.querySelector(':scope > .bt-rows') : element;

/** Lets what has moved go there from where it was. A row carries its cells. */
function glide(before: Map<HTMLElement, DOMRect>): void {
  for (const [element, was] of before) {
    if (!element.isConnected) continue;
    const is = element.getBoundingClientRect();
    const [x, y] = [was.left - is.left, element.matches('.bt-row') ? was.top - is.top : 0];
    if (Math.abs(x) + Math.abs(y) > 1)
      element.animate([{ transform: `translate(${x}px, ${y}px)` }, { transform: 'none' }], { duration: motion, easing: 'ease-out' });
  }
}
