const stops = 'input, select, textarea, button, a[href], summary, [tabindex]';

/** Of a group of radio buttons the Tab key stops at the one that is chosen, or at the first. */
function isGroupMember(element: HTMLElement): boolean {
  if (!(element instanceof HTMLInputElement) || element.type !== 'radio' || element.checked) return true;
  const group = [
    ...(element.getRootNode() as ParentNode).querySelectorAll<HTMLInputElement>(`input[type="radio"][name="${CSS.escape(element.name)}"]`),
  ];
  return group[0] === element && !group.some((each) => each.checked);
}

const canStop = (element: HTMLElement) =>
  isGroupMember(element) && element.tabIndex >= 0 && !element.hasAttribute('disabled') && element.getClientRects().length > 0;

/** Where the Tab key stops, in its order: as things are read, or in a section that says so down its columns. */
export function tabStops(within: ParentNode): HTMLElement[] {
  const read = [...within.querySelectorAll<HTMLElement>(stops)].filter(canStop);
  const order: HTMLElement[] = [];
  const taken = new Set<HTMLElement>();
  for (const stop of read) {
    if (taken.has(stop)) continue;
    const rows = stop.closest<HTMLElement>('[data-tab-order="columns"]');
    for (const each of rows ? columnStops(rows) : [stop]) {
      order.push(each);
      taken.add(each);
    }
  }
  return order;
}

/** A section's stops, column after column: by where their cells begin, then by their rows. */
function columnStops(rows: HTMLElement): HTMLElement[] {
  const rtl = getComputedStyle(rows).direction === 'rtl';
  const start = (stop: HTMLElement) => {
    const box = (stop.closest('.bt-cell') ?? stop).getBoundingClientRect();
    return Math.round(rtl ? -box.right : box.left);
  };
  return [...rows.querySelectorAll<HTMLElement>(stops)]
    .filter(canStop)
    .map((stop) => ({ stop, at: start(stop) }))
    .sort((one, other) => one.at - other.at)
    .map(({ stop }) => stop);
}

/** The Tab key inside a section whose order goes down its columns. */
export function downColumns(event: KeyboardEvent, rows: HTMLElement): void {
  if (event.key !== 'Tab' || event.defaultPrevented || event.ctrlKey || event.altKey || event.metaKey) return;
  const order = tabStops(rows.getRootNode() as Document | ShadowRoot);
  const at = order.indexOf(event.target as HTMLElement);
  const next = at < 0 ? undefined : order[at + (event.shiftKey ? -1 : 1)];
  if (!next) return;
  event.preventDefault();
  next.focus();
}
