/**
 * What an element is made with: attributes by their names (absent, false and undefined are left out, true is empty), and what it listens
 * to.
 */
export interface Attributes {
  [name: string]: string | number | boolean | undefined | null | Partial<CSSStyleDeclaration> | Listeners;
  on?: Listeners;
}

type Listeners = { [type in keyof HTMLElementEventMap]?: (event: HTMLElementEventMap[type]) => void };

export type Child = Node | string | false | null | undefined;

/** Makes an element. Texts become text, never markup. */
export function make<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  attributes: Attributes = {},
  ...children: Child[]
): HTMLElementTagNameMap[K] {
  const element = document.createElement(tag);
  for (const name in attributes) {
    if (name === 'on')
      for (const [type, listener] of Object.entries(attributes.on!)) element.addEventListener(type, listener as EventListener);
    else attribute(element, name, attributes[name] as string);
  }
  for (const child of children) if (child) element.append(child);
  return element;
}

/** Gives a new element its attributes; what is absent it does not have. */
export function setInitialAttributes(element: Element, attributes: Record<string, string | true | undefined>): void {
  for (const name in attributes)
    if (attributes[name] !== undefined) element.setAttribute(name, attributes[name] === true ? '' : attributes[name]);
}

/** Gives an element an attribute, or takes it off. */
export function attribute(element: Element, name: string, value: string | number | boolean | null | undefined): void {
  if (value === undefined || value === null || value === false) {
    if (element.hasAttribute(name)) element.removeAttribute(name);
    return;
  }
  const text = value === true ? '' : String(value);
  if (element.getAttribute(name) !== text) element.setAttribute(name, text);
}

/** What a label, a title or an address changes to is written only where it differs, so that nothing is announced twice. */
export function text(element: Element, content: string): void {
  if (element.textContent !== content) element.textContent = content;
}

/** Has an element hold just these nodes, in this order, moving as few as it can: what has the focus stays where it is. */
export function place(parent: Element, nodes: readonly Node[]): void {
  if (!parent.firstChild) {
    // What is drawn for the first time is most of what is drawn at all.
    for (const node of nodes) parent.appendChild(node);
    return;
  }
  let at: ChildNode | null = parent.firstChild;
  let same = 0;
  for (; same < nodes.length && at === nodes[same]; same++) at = at.nextSibling;
  if (same === nodes.length && !at) return;
  const wanted = new Set(nodes);
  for (const child of [...parent.childNodes]) if (!wanted.has(child)) child.remove();
  at = parent.firstChild;
  for (const node of nodes) {
    if (node === at) at = at.nextSibling;
    else parent.insertBefore(node, at);
  }
}

const svg = 'http://www.w3.org/2000/svg';

/** A picture beside words, which say the same: one SVG path on a raster of 24, in the colour and size of the text. */
export function icon(path: string | undefined): SVGSVGElement | undefined {
  if (!path) return undefined;
  const [picture, line] = [document.createElementNS(svg, 'svg'), document.createElementNS(svg, 'path')];
  picture.setAttribute('class', 'bt-icon');
  picture.setAttribute('viewBox', '0 0 24 24');
  picture.setAttribute('aria-hidden', 'true');
  line.setAttribute('d', path);
  picture.append(line);
  return picture;
}

let made = 0;

/** An id that nothing else on the page has. */
export const newId = () => `bt${++made}`;
