import type { Kind, Subject, TreeNode } from '#layout';
import type { EntityInfo } from '../../api/client.ts';

/** Something that is not a field and can be placed; what its name in the list is. */
export interface Part {
  subject: Extract<Subject, { part: Kind }>;
  name: string;
}

const of = (part: Kind, name: string): Part => ({ subject: { part }, name });

const groups: { name: string; parts: Part[] }[] = [
  { name: 'Structure', parts: [of('section', 'Section'), of('page', 'Tab'), of('panel', 'Panel of tabs')] },
  {
    name: 'Content',
    parts: [of('heading', 'Heading'), of('text', 'Text'), of('image', 'Picture'), of('divider', 'Divider'), of('spacer', 'Spacer')],
  },
  { name: 'Actions', parts: [of('link', 'Link'), of('action', 'Button')] },
];

const around: Part[] = [of('top', 'Top band'), of('bottom', 'Bottom band'), of('start', 'Column before'), of('end', 'Column behind')];

/** The parts a layout can take, in groups of what they are for. What a form has once, and has already, is not offered again. */
export function partsFor(tree: TreeNode, entity: EntityInfo | undefined): { name: string; parts: Part[] }[] {
  const kind = String(tree.properties['kind'] ?? 'full');
  if (kind === 'list') return [];
  const connected = (entity?.related ?? []).map((each): Part => ({
    subject: { part: 'related', properties: { related: each.entity, through: each.through } },
    name: each.label,
  }));
  const missing =
    kind === 'full' || kind === 'print' ? around.filter(({ subject }) => !tree.children.some((child) => child.kind === subject.part)) : [];
  return [...groups, { name: 'Related records', parts: connected }, { name: 'Beside the body', parts: missing }].filter(
    (group) => group.parts.length > 0,
  );
}
