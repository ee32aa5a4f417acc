import { editorRooms, firstEditors, itemRooms, letters, limits } from './grammar.gen.ts';
import type { Kind, PropertyValue, TreeNode } from './tree.ts';

/**
 * Units of a row's 12 that an item needs to be read and used at the base width, and those it takes where there is room. The core's Rooms
 * says the same; tests/vectors/rooms holds both to it.
 */
export interface Room {
  needed: number;
  natural: number;
}

/** What is known of a field that says how much room it needs. */
export interface FieldFacts {
  type: string;
  /** The most characters of a text. */
  maxLength?: number | null;
  /** The letters of the longest word of its label, in the language in which that is longest. */
  longestWord: number;
}

/** Fields by key. */
export type Facts = ReadonlyMap<string, FieldFacts>;

/** What has no room of its own, such as an empty cell. */
const least: Room = { needed: 1, natural: 1 };

const roomIn = ([needed, natural]: readonly [number, number]): Room => ({ needed, natural });

/** The room an editor needs, whatever stands over it. */
export function roomOfEditor(editor: string, type: string, maxLength: number | null | undefined): Room {
  if (editor === 'number' && (type === 'integer' || type === 'rating')) return roomIn(editorRooms['stars']!);
  const room = roomIn(editorRooms[editor] ?? editorRooms['line']!);
  if (editor !== 'line' || maxLength === null || maxLength === undefined || maxLength > letters.some) return room;
  return { ...room, natural: maxLength > letters.few ? room.needed + 1 : room.needed };
}

/** The units in which a word of so many letters stands whole over its field; for a long one more than a row has. */
const unitsOfWord = (count: number): number => Math.ceil((count * letters.width + letters.gap) / letters.unit);

/** The letters of the longest word of a text, in the language in which that is longest. */
export function longestWord(text: PropertyValue | undefined): number {
  const texts = typeof text === 'string' ? [text] : typeof text === 'object' && !Array.isArray(text) ? Object.values(text) : [];
  return Math.max(0, ...texts.flatMap((each) => each.split(/[ -]/).map((word) => word.length)));
}

/** The room an item needs: a field what its editor and its label need, one that is not known that of a text, the rest by its kind. */
export function roomOf(item: Pick<TreeNode, 'kind' | 'properties'>, facts: Facts): Room {
  if (item.kind !== 'field') return itemRooms[item.kind] ? roomIn(itemRooms[item.kind]!) : least;
  const field = facts.get(String(item.properties['field']));
  if (!field) return roomIn(editorRooms['line']!);
  const editor = item.properties['editor'];
  const room = roomOfEditor(typeof editor === 'string' ? editor : firstEditors[field.type]!, field.type, field.maxLength);
  const label = item.properties['label'];
  const word = Math.min(limits.units, unitsOfWord(label === undefined ? field.longestWord : longestWord(label)));
  const needed = Math.max(room.needed, word);
  return { needed, natural: Math.max(needed, room.natural) };
}

/** The room a cell needs: that of the widest of what stands in it. */
export const roomOfCell = (cell: TreeNode, facts: Facts): Room =>
  cell.children
    .map((item) => roomOf(item, facts))
    .reduce((a, b) => ({ needed: Math.max(a.needed, b.needed), natural: Math.max(a.natural, b.natural) }), least);

/** The room a new item of a kind needs. */
export const roomOfKind = (kind: Kind): Room => roomOf({ kind, properties: {} }, new Map());
