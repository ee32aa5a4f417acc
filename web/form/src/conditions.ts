import type { Compiled } from './types.ts';

/** An evaluation that came to no value. Conditions that end so are closed: see FormStore. */
export class Failure {
  constructor(readonly message: string) {}
}

/** A point in time, in milliseconds; a class of its own so that it equals no number. */
export class Moment {
  constructor(readonly ms: number) {}
}

/** null, boolean, bigint (whole numbers), number (double), string, Moment, list or map. */
export type Value = null | boolean | bigint | number | string | Moment | Value[] | { [key: string]: Value } | Failure;

const overflow = (whole: bigint) => (whole >= -(2n ** 63n) && whole < 2n ** 63n ? whole : new Failure('overflow'));

/** Evaluates a compiled condition; the same semantics as the service's evaluator, proved by the same vectors. */
export function evaluate(compiled: Compiled, names: Record<string, Value>): Value {
  if (compiled === null || typeof compiled !== 'object') return compiled;
  if (!Array.isArray(compiled)) return 'int' in compiled ? BigInt(compiled.int) : Number(compiled.double);
  const [operation, ...parts] = compiled as [string, ...Compiled[]];
  switch (operation) {
    case 'name': {
      const name = parts[0] as string;
      return name in names ? names[name]! : new Failure(`no name '${name}'`);
    }
    case 'get':
    case 'has': {
      const target = evaluate(parts[0]!, names);
      if (target instanceof Failure) return target;
      if (!isMap(target)) return new Failure('no fields');
      const key = parts[1] as string;
      const known = Object.hasOwn(target, key);
      return operation === 'has' ? known && target[key] !== null : known ? target[key]! : new Failure(`no such key: ${key}`);
    }
    case 'at': {
      const [list, index] = [evaluate(parts[0]!, names), evaluate(parts[1]!, names)];
      if (list instanceof Failure) return list;
      if (index instanceof Failure) return index;
      if (!Array.isArray(list) || typeof index !== 'bigint') return new Failure('only lists have elements');
      return index >= 0n && index < BigInt(list.length) ? list[Number(index)]! : new Failure('no such element');
    }
    case 'not':
    case 'neg': {
      const operand = evaluate(parts[0]!, names);
      if (operand instanceof Failure) return operand;
      if (operation === 'not') return typeof operand === 'boolean' ? !operand : new Failure('no such operation: !');
      return typeof operand === 'bigint' ? overflow(-operand) : typeof operand === 'number' ? -operand : new Failure('no such operation: -');
    }
    case '&&':
    case '||':
      return logic(operation === '||', evaluate(parts[0]!, names), () => evaluate(parts[1]!, names));
    case '?': {
      const test = evaluate(parts[0]!, names);
      if (test instanceof Failure) return test;
      return typeof test === 'boolean' ? evaluate(parts[test ? 1 : 2]!, names) : new Failure('neither true nor false');
    }
    case 'list': {
      const elements = parts.map((part) => evaluate(part, names));
      return elements.find((element) => element instanceof Failure) ?? elements;
    }
    case 'call': {
      const values = parts.slice(1).map((part) => evaluate(part, names));
      return values.find((value) => value instanceof Failure) ?? call(parts[0] as string, values);
    }
    default:
      return combine(operation, evaluate(parts[0]!, names), evaluate(parts[1]!, names));
  }
}

/** A failing side is absorbed when the other side decides. */
function logic(deciding: boolean, left: Value, other: () => Value): Value {
  if (left === deciding) return deciding;
  const right = other();
  if (right === deciding) return deciding;
  if (typeof left === 'boolean' && typeof right === 'boolean') return !deciding;
  return left instanceof Failure ? left : right instanceof Failure ? right : new Failure('neither true nor false');
}

function isMap(value: Value): value is { [key: string]: Value } {
  return typeof value === 'object' && value !== null && !Array.isArray(value) && !(value instanceof Moment) && !(value instanceof Failure);
}

function combine(operation: string, left: Value, right: Value): Value {
  if (left instanceof Failure) return left;
  if (right instanceof Failure) return right;
  switch (operation) {
    case '==':
      return equal(left, right);
    case '!=':
      return !equal(left, right);
    case '<':
    case '<=':
    case '>':
    case '>=': {
      const order = compare(left, right);
      if (order === undefined) return new Failure(`no such operation: ${operation}`);
      return operation === '<' ? order < 0 : operation === '<=' ? order <= 0 : operation === '>' ? order > 0 : order >= 0;
    }
    case 'in':
      return Array.isArray(right) ? right.some((element) => equal(left, element)) : new Failure("'in' looks in a list");
    default:
      return arithmetic(operation, left, right);
  }
}

function equal(left: Value, right: Value): boolean {
  if (isNumber(left) && isNumber(right)) return left == right;
  if (left instanceof Moment && right instanceof Moment) return left.ms === right.ms;
  if (Array.isArray(left) && Array.isArray(right)) return left.length === right.length && left.every((element, i) => equal(element, right[i]!));
  return left === right;
}

const isNumber = (value: Value): value is bigint | number => typeof value === 'bigint' || typeof value === 'number';

/** Negative, zero or positive; NaN where a side is not a number; undefined where the two cannot be ordered. */
function compare(left: Value, right: Value): number | undefined {
  if (isNumber(left) && isNumber(right)) return left < right ? -1 : left > right ? 1 : left == right ? 0 : NaN;
  if (left instanceof Moment && right instanceof Moment) return left.ms - right.ms;
  if (typeof left === 'string' && typeof right === 'string') return left < right ? -1 : left > right ? 1 : 0;
  if (typeof left === 'boolean' && typeof right === 'boolean') return Number(left) - Number(right);
  return undefined;
}

function arithmetic(operation: string, left: Value, right: Value): Value {
  if (typeof left === 'bigint' && typeof right === 'bigint') {
    if ((operation === '/' || operation === '%') && right === 0n) return new Failure(operation === '/' ? 'divide by zero' : 'modulus by zero');
    switch (operation) {
      case '+':
        return overflow(left + right);
      case '-':
        return overflow(left - right);
      case '*':
        return overflow(left * right);
      case '/':
        return overflow(left / right);
      case '%':
        return left % right;
    }
  }
  if (typeof left === 'number' && typeof right === 'number') {
    switch (operation) {
      case '+':
        return left + right;
      case '-':
        return left - right;
      case '*':
        return left * right;
      case '/':
        return left / right;
    }
  }
  if (operation === '+' && typeof left === 'string' && typeof right === 'string') return left + right;
  if (operation === '+' && Array.isArray(left) && Array.isArray(right)) return [...left, ...right];
  return new Failure(`no such operation: ${operation}`);
}

function call(name: string, [first, second]: Value[]): Value {
  if (typeof first === 'string') {
    switch (name) {
      case 'size':
        return BigInt([...first].length);
      case 'contains':
        if (typeof second === 'string') return first.includes(second);
        break;
      case 'startsWith':
        if (typeof second === 'string') return first.startsWith(second);
        break;
      case 'endsWith':
        if (typeof second === 'string') return first.endsWith(second);
        break;
      case 'timestamp':
        return /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,7})?(Z|[+-]\d\d:\d\d)$/.test(first) && !isNaN(Date.parse(first)) ? new Moment(Date.parse(first)) : new Failure('no point in time');
      case 'int':
        return /^[+-]?\d+$/.test(first) ? overflow(BigInt(first)) : new Failure('no whole number');
      case 'double':
        return first.trim() !== '' && !isNaN(Number(first)) ? Number(first) : new Failure('no number');
      case 'string':
        return first;
    }
  }
  if (name === 'size' && Array.isArray(first)) return BigInt(first.length);
  if (name === 'timestamp' && first instanceof Moment) return first;
  if (typeof first === 'bigint') {
    if (name === 'int') return first;
    if (name === 'double') return Number(first);
    if (name === 'string') return first.toString();
  }
  if (typeof first === 'number') {
    if (name === 'double') return first;
    if (name === 'int') return Math.abs(first) < 2 ** 63 ? BigInt(Math.trunc(first)) : new Failure('range');
  }
  if (name === 'string' && typeof first === 'boolean') return String(first);
  return new Failure(`no such operation: ${name}`);
}
