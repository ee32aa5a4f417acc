import type { CompiledCondition } from '../model/types.ts';
import { matches, type PatternStep } from '../patterns/pattern.ts';
import {
  Duration,
  duration,
  durationText,
  failed,
  Failure,
  Moment,
  moment,
  momentText,
  parseDuration,
  parseMoment,
  timePart,
  whole,
  type Value,
} from './values.ts';

/** Steps one evaluation may take; the service counts alike. */
const mostWork = 20_000;

let work = 0;

/** Evaluates a compiled condition; the same semantics as the service's evaluator, proved by the same vectors. */
export function evaluate(compiled: CompiledCondition, names: Record<string, Value>): Value {
  work = 0;
  return value(compiled, names);
}

function value(compiled: CompiledCondition, names: Record<string, Value>): Value {
  if (++work > mostWork) return new Failure('too much work');
  if (compiled === null || typeof compiled !== 'object') return compiled;
  if (!Array.isArray(compiled)) return 'int' in compiled ? BigInt(compiled.int) : Number(compiled.double);
  const [operation, ...parts] = compiled as [string, ...CompiledCondition[]];
  const part = (index: number) => value(parts[index]!, names);
  switch (operation) {
    case 'name': {
      const name = parts[0] as string;
      return name in names ? names[name]! : new Failure(`no name '${name}'`);
    }
    case 'get':
      return member(part(0), parts[1] as string);
    case 'has': {
      const target = part(0);
      if (target instanceof Failure) return target;
      if (target instanceof Map) return target.has(parts[1] as string);
      return isRecord(target) ? (target[parts[1] as string] ?? null) !== null : new Failure('has() of something without fields');
    }
    case 'at':
      return indexed(part(0), part(1));
    case 'not':
    case 'neg': {
      const operand = part(0);
      if (operand instanceof Failure) return operand;
      if (operation === 'not') return typeof operand === 'boolean' ? !operand : failed('!');
      return typeof operand === 'bigint' ? whole(-operand) : typeof operand === 'number' ? -operand : failed('-');
    }
    case '&&':
    case '||':
      return logic(operation === '||', part(0), () => part(1));
    case '?': {
      const test = part(0);
      if (test instanceof Failure) return test;
      return typeof test === 'boolean' ? part(test ? 1 : 2) : new Failure('neither true nor false');
    }
    case 'list': {
      const elements = parts.map((each) => value(each, names));
      return elements.find((element) => element instanceof Failure) ?? elements;
    }
    case 'map':
      return mapped(parts.map((each) => value(each, names)));
    case 'over':
      return over(parts, names);
    case 'matches': {
      const target = part(0);
      if (target instanceof Failure) return target;
      if (typeof target !== 'string') return failed('matches');
      work += Math.floor(target.length / 4);
      return work > mostWork ? new Failure('too much work') : matches(parts[1] as unknown as PatternStep[], target);
    }
    case 'call': {
      const values = parts.slice(1).map((each) => value(each, names));
      return values.find((each) => each instanceof Failure) ?? applyFunction(parts[0] as string, values);
    }
    default:
      return spent(combine(operation, part(0), part(1)));
  }
}

/** What is under a key of a map or a record. */
function member(target: Value, key: string): Value {
  if (target instanceof Failure) return target;
  const found = target instanceof Map ? entryOf(target, key) : isRecord(target) && Object.hasOwn(target, key) ? target[key] : undefined;
  return found === undefined ? new Failure(`no such key: ${key}`) : found;
}

/** What makes something long is paid for by its length. */
function spent(result: Value): Value {
  work += typeof result === 'string' ? Math.floor(result.length / 16) : Array.isArray(result) ? result.length : 0;
  return work > mostWork ? new Failure('too much work') : result;
}

/** A failing side is absorbed when the other side decides. */
function logic(deciding: boolean, left: Value, other: () => Value): Value {
  if (left === deciding) return deciding;
  const right = other();
  if (right === deciding) return deciding;
  if (typeof left === 'boolean' && typeof right === 'boolean') return !deciding;
  return left instanceof Failure ? left : right instanceof Failure ? right : new Failure('neither true nor false');
}

function over([macro, target, variable, body, only]: CompiledCondition[], names: Record<string, Value>): Value {
  const list = value(target!, names);
  if (list instanceof Failure) return list;
  if (!Array.isArray(list) && !(list instanceof Map)) return failed(macro as string);
  let result: Value = macro === 'all';
  const gathered: Value[] = [];
  for (const element of Array.isArray(list) ? list : list.keys()) {
    const scope = { ...names, [variable as string]: element };
    if (macro === 'all' || macro === 'exists') {
      result = logic(macro === 'exists', result, () => value(body!, scope));
      if (result === (macro === 'exists')) return result;
      continue;
    }
    const test = macro !== 'map' ? value(body!, scope) : only === undefined ? true : value(only, scope);
    if (typeof test !== 'boolean') return test instanceof Failure ? test : new Failure('neither true nor false');
    if (!test) continue;
    const kept = macro === 'map' ? value(body!, scope) : element;
    if (kept instanceof Failure) return kept;
    gathered.push(kept);
  }
  return macro === 'all' || macro === 'exists' ? result : macro === 'exists_one' ? gathered.length === 1 : spent(gathered);
}

function mapped(values: Value[]): Value {
  const map = new Map<Value, Value>();
  for (let i = 0; i < values.length; i += 2) {
    const [key, held] = [values[i]!, values[i + 1]!];
    if (key instanceof Failure) return key;
    if (held instanceof Failure) return held;
    if (!['bigint', 'string', 'boolean'].includes(typeof key) || map.has(key)) return new Failure('a key is given twice or cannot be one');
    map.set(key, held);
  }
  return map;
}

/** A double that is a whole number finds the entry of that number. */
function entryOf(map: Map<Value, Value>, key: Value): Value | undefined {
  return map.get(typeof key === 'number' && Number.isInteger(key) ? BigInt(key) : key);
}

function indexed(target: Value, key: Value): Value {
  if (target instanceof Failure) return target;
  if (key instanceof Failure) return key;
  const found =
    target instanceof Map
      ? entryOf(target, key)
      : Array.isArray(target) && (typeof key === 'bigint' || typeof key === 'number')
        ? target[Number(key)]
        : isRecord(target) && typeof key === 'string' && Object.hasOwn(target, key)
          ? target[key]
          : undefined;
  return found === undefined ? new Failure('no such element') : found;
}

function isRecord(of: Value): of is { [key: string]: Value } {
  return typeof of === 'object' && of !== null && Object.getPrototypeOf(of) === Object.prototype;
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
      if (order === undefined) return failed(operation);
      return operation === '<' ? order < 0 : operation === '<=' ? order <= 0 : operation === '>' ? order > 0 : order >= 0;
    }
    case 'in':
      return Array.isArray(right)
        ? right.some((element) => equal(left, element))
        : right instanceof Map
          ? entryOf(right, left) !== undefined
          : failed('in');
    default:
      return arithmetic(operation, left, right);
  }
}

function equal(left: Value, right: Value): boolean {
  if (isNumber(left) && isNumber(right)) return compare(left, right) === 0;
  if (left instanceof Moment && right instanceof Moment) return left.ns === right.ns;
  if (left instanceof Duration && right instanceof Duration) return left.ns === right.ns;
  if (Array.isArray(left) && Array.isArray(right))
    return left.length === right.length && left.every((element, i) => equal(element, right[i]!));
  if (left instanceof Map && right instanceof Map) {
    return left.size === right.size && [...left].every(([key, held]) => right.has(key) && equal(held, right.get(key)!));
  }
  return left === right;
}

const isNumber = (of: Value): of is bigint | number => typeof of === 'bigint' || typeof of === 'number';

/** Negative, zero or positive; NaN where a side is not a number; undefined where the two cannot be ordered. */
function compare(left: Value, right: Value): number | undefined {
  if (isNumber(left) && isNumber(right)) {
    // A whole number beside a double is taken as its nearest double.
    const [a, b] = typeof left === typeof right ? [left, right] : [Number(left), Number(right)];
    return a < b ? -1 : a > b ? 1 : a === b ? 0 : NaN;
  }
  if (left instanceof Moment && right instanceof Moment) return left.ns < right.ns ? -1 : left.ns > right.ns ? 1 : 0;
  if (left instanceof Duration && right instanceof Duration) return left.ns < right.ns ? -1 : left.ns > right.ns ? 1 : 0;
  if (typeof left === 'string' && typeof right === 'string') return compareTexts(left, right);
  if (typeof left === 'boolean' && typeof right === 'boolean') return Number(left) - Number(right);
  return undefined;
}

/** By code point, not by the halves of a surrogate pair. */
function compareTexts(left: string, right: string): number {
  let at = 0;
  while (at < left.length && left[at] === right[at]) at++;
  return at >= left.length || at >= right.length ? left.length - right.length : height(left, at) - height(right, at);
}

const height = (text: string, at: number) => {
  const unit = text.charCodeAt(at);
  return unit >= 0xd800 && unit <= 0xdfff ? unit + 0x10000 : unit;
};

function arithmetic(operation: string, left: Value, right: Value): Value {
  if (typeof left === 'bigint' && typeof right === 'bigint') {
    if ((operation === '/' || operation === '%') && right === 0n)
      return new Failure(operation === '/' ? 'divide by zero' : 'modulus by zero');
    switch (operation) {
      case '+':
        return whole(left + right);
      case '-':
        return whole(left - right);
      case '*':
        return whole(left * right);
      case '/':
        return whole(left / right);
      case '%':
        return right === -1n && left === -(2n ** 63n) ? new Failure('overflow') : left % right;
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
  if (operation === '+') {
    if (typeof left === 'string' && typeof right === 'string') return left + right;
    if (Array.isArray(left) && Array.isArray(right)) return [...left, ...right];
    if (left instanceof Moment && right instanceof Duration) return moment(left.ns + right.ns);
    if (left instanceof Duration && right instanceof Moment) return moment(left.ns + right.ns);
    if (left instanceof Duration && right instanceof Duration) return duration(left.ns + right.ns);
  }
  if (operation === '-') {
    if (left instanceof Moment && right instanceof Duration) return moment(left.ns - right.ns);
    if (left instanceof Moment && right instanceof Moment) return duration(left.ns - right.ns);
    if (left instanceof Duration && right instanceof Duration) return duration(left.ns - right.ns);
  }
  return failed(operation);
}

const spoken: Record<string, boolean> = {
  '1': true,
  t: true,
  T: true,
  true: true,
  TRUE: true,
  True: true,
  '0': false,
  f: false,
  F: false,
  false: false,
  FALSE: false,
  False: false,
};

function applyFunction(name: string, [first, second]: Value[]): Value {
  if (name === 'dyn' && first !== undefined) return first;
  if (typeof first === 'string') {
    switch (name) {
      case 'size':
        return BigInt([...first].length);
      case 'contains':
        return typeof second === 'string' ? first.includes(second) : failed(name);
      case 'startsWith':
        return typeof second === 'string' ? first.startsWith(second) : failed(name);
      case 'endsWith':
        return typeof second === 'string' ? first.endsWith(second) : failed(name);
      case 'timestamp':
        return parseMoment(first);
      case 'duration':
        return parseDuration(first);
      case 'int':
        return /^[+-]?\d+$/.test(first) ? whole(BigInt(first)) : new Failure('no whole number');
      case 'double':
        return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(first) || /^(NaN|-?Infinity)$/.test(first)
          ? Number(first)
          : new Failure('no number');
      case 'bool':
        return Object.hasOwn(spoken, first) ? spoken[first]! : new Failure('neither true nor false');
      case 'string':
        return first;
    }
  }
  if (name === 'size' && Array.isArray(first)) return BigInt(first.length);
  if (name === 'size' && first instanceof Map) return BigInt(first.size);
  if (first instanceof Moment || first instanceof Duration) {
    if (name === 'string') return first instanceof Moment ? momentText(first) : durationText(first);
    if (name === 'int' && first instanceof Moment) return BigInt(Math.floor(first.ms / 1000));
    return name === (first instanceof Moment ? 'timestamp' : 'duration') ? first : timePart(name, first, second);
  }
  if (typeof first === 'bigint') {
    if (name === 'int') return first;
    if (name === 'double') return Number(first);
    if (name === 'string') return first.toString();
    if (name === 'timestamp') return moment(first * 1_000_000_000n);
  }
  if (typeof first === 'number') {
    if (name === 'double') return first;
    if (name === 'int') return Math.abs(first) < 2 ** 63 ? BigInt(Math.trunc(first)) : new Failure('range');
    if (name === 'string') return String(first);
  }
  if (typeof first === 'boolean') {
    if (name === 'string') return String(first);
    if (name === 'bool') return first;
  }
  return failed(name);
}
