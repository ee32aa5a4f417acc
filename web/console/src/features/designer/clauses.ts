import type { FieldInfo } from '../../api/client.ts';
import { say } from '../../shell/configurator/texts.ts';

/** One line of a condition that is put together by clicking: a field (or the viewer's role), how it is compared, and with what. */
export interface Clause {
  /** A field's key, or `roles`, whoever looks at the form. */
  subject: string;
  operator: Operator;
  value: string;
}

export type Operator =
  | 'is'
  | 'isNot'
  | 'less'
  | 'atMost'
  | 'more'
  | 'atLeast'
  | 'contains'
  | 'begins'
  | 'includes'
  | 'past'
  | 'ahead'
  | 'yes'
  | 'no'
  | 'filled'
  | 'empty'
  | 'isRole'
  | 'isNoRole';

/** Several clauses, all or any of which must hold. */
export interface Clauses {
  joined: '&&' | '||';
  list: Clause[];
}

export const roles = 'roles';

const numbers = ['integer', 'decimal', 'money', 'rating'];
const days = ['date', 'dateTime'];

/** The comparisons that make sense for a type of field, by the words they are offered with. */
export function operatorsOf(type: string | undefined): [Operator, string][] {
  const always: [Operator, string][] = [
    ['filled', say('operator.filled')],
    ['empty', say('operator.empty')],
  ];
  if (type === undefined)
    return [
      ['isRole', say('operator.isRole')],
      ['isNoRole', say('operator.isNoRole')],
    ];
  if (type === 'boolean')
    return [
      ['yes', say('operator.yes')],
      ['no', say('operator.no')],
      ['empty', say('operator.empty')],
    ];
  if (type === 'choice') return [['is', say('operator.is')], ['isNot', say('operator.isNot')], ...always];
  if (type === 'choices') return [['includes', say('operator.includes')], ...always];
  if (numbers.includes(type))
    return [
      ['is', say('operator.is')],
      ['isNot', say('operator.isNot')],
      ['less', say('operator.less')],
      ['atMost', say('operator.atMost')],
      ['more', say('operator.more')],
      ['atLeast', say('operator.atLeast')],
      ...always,
    ];
  if (days.includes(type)) return [['past', say('operator.past')], ['ahead', say('operator.ahead')], ...always];
  if (['reference', 'image', 'file'].includes(type)) return always;
  return [
    ['is', say('operator.is')],
    ['isNot', say('operator.isNot')],
    ['contains', say('operator.contains')],
    ['begins', say('operator.begins')],
    ...always,
  ];
}

/** Whether a comparison is with something that has to be said. */
export const takesValue = (operator: Operator) => !['past', 'ahead', 'yes', 'no', 'filled', 'empty'].includes(operator);

const quoted = (text: string) => `'${text.replaceAll('\\', '\\\\').replaceAll("'", "\\'")}'`;

/** A clause as a condition. What compares is closed for empty fields, as conditions are anyway. */
function writeOne({ subject, operator, value }: Clause, fields: FieldInfo[]): string {
  const type = fields.find((field) => field.key === subject)?.type ?? '';
  const name = `record.${subject}`;
  const number =
    type === 'integer' || type === 'rating'
      ? String(Math.trunc(Number(value) || 0))
      : Number.isInteger(Number(value))
        ? `${Number(value)}.0`
        : String(Number(value) || 0);
  const literal = numbers.includes(type) ? number : quoted(value);
  switch (operator) {
    case 'is':
      return `${name} == ${literal}`;
    case 'isNot':
      return `${name} != ${literal}`;
    case 'less':
      return `${name} < ${literal}`;
    case 'atMost':
      return `${name} <= ${literal}`;
    case 'more':
      return `${name} > ${literal}`;
    case 'atLeast':
      return `${name} >= ${literal}`;
    case 'contains':
      return `${name}.contains(${literal})`;
    case 'begins':
      return `${name}.startsWith(${literal})`;
    case 'includes':
      return `${quoted(value)} in ${name}`;
    case 'past':
      return `${name} < today`;
    case 'ahead':
      return `${name} > today`;
    case 'yes':
      return `${name} == true`;
    case 'no':
      return `${name} == false`;
    case 'filled':
      return `has(${name})`;
    case 'empty':
      return `!has(${name})`;
    case 'isRole':
      return `${quoted(value)} in user.roles`;
    case 'isNoRole':
      return `!(${quoted(value)} in user.roles)`;
  }
}

export const write = ({ joined, list }: Clauses, fields: FieldInfo[]): string =>
  list.map((clause) => writeOne(clause, fields)).join(` ${joined} `);

type Tree = string | number | boolean | null | { int?: string } | Tree[];

const comparisons: Record<string, Operator> = { '==': 'is', '!=': 'isNot', '<': 'less', '<=': 'atMost', '>': 'more', '>=': 'atLeast' };

/** What a compiled condition (docs/model.md) says in clauses; nothing when it says more than they can. */
export function read(tree: unknown): Clauses | undefined {
  const node = tree as Tree;
  const joined = Array.isArray(node) && node[0] === '||' ? '||' : '&&';
  const parts: Tree[] = [];
  const gather = (each: Tree) => {
    if (Array.isArray(each) && each[0] === joined) each.slice(1).forEach(gather);
    else parts.push(each);
  };
  gather(node);
  const list = parts.map(readOne);
  return list.every((clause) => clause !== undefined) ? { joined, list } : undefined;
}

function readOne(node: Tree): Clause | undefined {
  if (!Array.isArray(node)) return undefined;
  if (node[0] === 'call' && (node[1] === 'contains' || node[1] === 'startsWith')) {
    const [subject, value] = [fieldOf(node[2]), literalOf(node[3])];
    return subject && value !== undefined ? { subject, operator: node[1] === 'contains' ? 'contains' : 'begins', value } : undefined;
  }
  const [operation, left, right] = node as [string, Tree, Tree];
  const field = fieldOf(left);
  if (operation === 'has')
    return Array.isArray(left) && left[1] === 'record' ? { subject: String(right), operator: 'filled', value: '' } : undefined;
  if (operation === 'not') {
    const inner = readOne(left);
    return inner?.operator === 'filled'
      ? { ...inner, operator: 'empty' }
      : inner?.operator === 'isRole'
        ? { ...inner, operator: 'isNoRole' }
        : undefined;
  }
  if (operation === 'in') {
    const value = literalOf(left);
    if (value === undefined) return undefined;
    if (JSON.stringify(right) === '["get",["name","user"],"roles"]') return { subject: roles, operator: 'isRole', value };
    const of = fieldOf(right);
    return of ? { subject: of, operator: 'includes', value } : undefined;
  }
  if (!field) return undefined;
  if ((operation === '<' || operation === '>') && JSON.stringify(right) === '["name","today"]')
    return { subject: field, operator: operation === '<' ? 'past' : 'ahead', value: '' };
  if (operation === '==' && typeof right === 'boolean') return { subject: field, operator: right ? 'yes' : 'no', value: '' };
  const compared = comparisons[operation];
  const value = literalOf(right);
  return compared && value !== undefined ? { subject: field, operator: compared, value } : undefined;
}

const fieldOf = (node: Tree | undefined): string | undefined =>
  Array.isArray(node) && node[0] === 'get' && Array.isArray(node[1]) && node[1][1] === 'record' && !String(node[2]).includes('.')
    ? String(node[2])
    : undefined;

const literalOf = (node: Tree | undefined): string | undefined =>
  typeof node === 'string' || typeof node === 'number'
    ? String(node)
    : typeof node === 'object' && node !== null && 'int' in node
      ? String(node.int)
      : undefined;
