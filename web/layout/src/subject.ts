import { freshId } from './ids.ts';
import { roomOf, roomOfKind, type Facts, type Room } from './rooms.ts';
import { find, isList, type Kind, type NewNode, type PropertyValue, type TreeNode } from './tree.ts';

/** What is being placed: a field or part that is not on the layout yet, or a node that is. */
export type Subject =
  { field: string } | { part: Kind; title?: string; properties?: Record<string, PropertyValue> } | { piece: string } | { node: string };

export const kindOf = (tree: TreeNode, subject: Subject): Kind | undefined =>
  'field' in subject
    ? isList(tree)
      ? 'column'
      : 'field'
    : 'piece' in subject
      ? 'piece'
      : 'part' in subject
        ? subject.part
        : find(tree, subject.node)?.kind;

/** What the nodes made for a subject are called after. */
export const stemOf = (subject: Subject) =>
  'field' in subject ? subject.field : 'node' in subject ? subject.node : 'piece' in subject ? subject.piece : subject.part;

/** A subject that is not on the layout yet, as it is first made. */
export function newNode(tree: TreeNode, subject: Subject, kind: Kind): NewNode {
  // Called as the service would call it, so that what comes next can name it.
  if ('field' in subject) return { id: freshId(tree, subject.field), kind, properties: { [kind]: subject.field } };
  if ('piece' in subject) return { kind: 'piece', properties: { piece: subject.piece } };
  const title = 'title' in subject ? subject.title : undefined;
  const named: Record<string, PropertyValue> = title ? { label: title } : {};
  const filled = (content: NewNode): NewNode => ({
    kind: 'section',
    children: [{ kind: 'row', children: [{ kind: 'cell', children: [content] }] }],
  });
  switch (kind) {
    case 'image':
      return { kind, properties: { image: '/icon.svg', ...(title ? { alt: title } : {}) } };
    // It leads somewhere from the start; where to is said beside it.
    case 'link':
      return { kind, properties: { link: '/', ...named } };
    case 'action':
      return { kind, properties: { action: 'open', address: '/', ...named } };
    case 'related':
      return { kind, properties: 'properties' in subject ? subject.properties! : {} };
    case 'panel':
      return {
        kind,
        properties: { panel: 'tabs' },
        children: [{ kind: 'page', properties: title ? { title } : {}, children: [{ kind: 'section' }] }],
      };
    case 'top':
    case 'bottom':
      return { kind, properties: { text: title ?? '' } };
    case 'start':
    case 'end':
      return { kind, children: [filled({ kind: 'text', properties: { text: title ?? 'Text' } })] };
    case 'heading':
      return { kind, properties: { heading: title ?? 'Heading' } };
    case 'text':
      return { kind, properties: { text: title ?? 'Text' } };
    case 'divider':
      return { kind, properties: { divider: 'thin' } };
    case 'spacer':
      return { kind, properties: { spacer: 'medium' } };
    default:
      return { kind, properties: title ? { title } : {} };
  }
}

/** The room a subject needs. */
export function roomOfSubject(tree: TreeNode, subject: Subject, facts: Facts): Room {
  if ('field' in subject) return roomOf({ kind: 'field', properties: { field: subject.field } }, facts);
  if ('node' in subject) return roomOf(find(tree, subject.node)!, facts);
  return roomOfKind('piece' in subject ? 'piece' : subject.part);
}
