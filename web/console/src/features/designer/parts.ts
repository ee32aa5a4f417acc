import type { Kind, Subject, TreeNode } from '#layout';
import type { EntityInfo } from '../../api/client.ts';
import { kindName } from './names.ts';
import { say } from '../../shell/configurator/texts.ts';

/** Kinds of layout whose fields flow in rows, so that they can be shorter or tidier. */
export const flowing: readonly string[] = ['full', 'short', 'print'];

/** Something that is not a field and can be placed; what its name in the list is. */
export interface Part {
  subject: Extract<Subject, { part: Kind }>;
  name: string;
}

const of = (part: Kind): Part => ({ subject: { part }, name: kindName(part) });

/** What has words of its own says what it is, until it is named. */
const worded = (part: Kind): Part => ({ subject: { part, title: kindName(part) }, name: kindName(part) });

const groups = (): { name: string; parts: Part[] }[] => [
  { name: say('parts.structure'), parts: [of('section'), of('page'), of('panel')] },
  {
    name: say('parts.content'),
    parts: [worded('heading'), worded('text'), of('image'), of('divider'), of('spacer')],
  },
  { name: say('parts.actions'), parts: [of('link'), of('action')] },
];

const around = (): Part[] => [of('top'), of('bottom'), of('start'), of('end')];

/** The parts a layout can take, in groups of what they are for. What a form has once, and has already, is not offered again. */
export function partsFor(tree: TreeNode, entity: EntityInfo | undefined): { name: string; parts: Part[] }[] {
  const kind = String(tree.properties['kind'] ?? 'full');
  if (kind === 'list') return [];
  const connected = (entity?.related ?? []).map((each): Part => ({
    subject: { part: 'related', properties: { related: each.entity, through: each.through } },
    name: each.label,
  }));
  const missing =
    kind === 'full' || kind === 'print'
      ? around().filter(({ subject }) => !tree.children.some((child) => child.kind === subject.part))
      : [];
  return [...groups(), { name: say('parts.related'), parts: connected }, { name: say('parts.beside'), parts: missing }].filter(
    (group) => group.parts.length > 0,
  );
}
