/** An evaluation that came to no value. Conditions that end so are closed: see FormStore. */
export class Failure {
  constructor(readonly message: string) {}
}

/** A point in time, in nanoseconds since 1970 UTC; a class of its own so that it equals no number. */
export class Moment {
  constructor(readonly ns: bigint) {}

  static ofMs(ms: number): Moment {
    return new Moment(BigInt(ms) * 1_000_000n);
  }

  get ms(): number {
    return Number(floorDivide(this.ns, 1_000_000n));
  }
}

/** A length of time, in nanoseconds. */
export class Duration {
  constructor(readonly ns: bigint) {}
}

/**
 * null, boolean, bigint (whole numbers), number (double), string, Moment, Duration, list, map (Map), or record (a plain object, in which
 * null
 * is absence).
 */
export type Value =
  null | boolean | bigint | number | string | Moment | Duration | Value[] | Map<Value, Value> | { [key: string]: Value } | Failure;

export const failed = (operation: string) => new Failure(`no such operation: ${operation}`);

const limit = 2n ** 63n;

/** A whole number of 64 bits, or a failure. */
export const whole = (value: bigint): Value => (value >= -limit && value < limit ? value : new Failure('overflow'));

export const floorDivide = (value: bigint, by: bigint) => (value >= 0n ? value / by : -((-value + by - 1n) / by));

const first = BigInt(Date.parse('0001-01-01T00:00:00Z')) * 1_000_000n;
const last = BigInt(Date.parse('9999-12-31T23:59:59.999Z')) * 1_000_000n + 999_999n;

export const moment = (ns: bigint): Value => (ns >= first && ns <= last ? new Moment(ns) : new Failure('out of range'));

export const duration = (ns: bigint): Value => (ns >= -limit && ns < limit ? new Duration(ns) : new Failure('overflow'));

/** RFC 3339. */
export function parseMoment(text: string): Value {
  const found = /^(\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d)(?:\.(\d{1,9}))?(Z|[+-]\d\d:\d\d)$/.exec(text);
  const ms = found ? Date.parse(found[1] + found[3]!) : NaN;
  // Date rolls the 31st of June over; RFC 3339 has no such day.
  if (!found || isNaN(ms) || isNaN(Date.parse(`${found[1]}Z`)) || !new Date(`${found[1]}Z`).toISOString().startsWith(found[1]!))
    return new Failure('no point in time');
  return moment(BigInt(ms) * 1_000_000n + BigInt((found[2] ?? '').padEnd(9, '0')));
}

const units: Record<string, bigint> = {
  ns: 1n,
  us: 1_000n,
  µs: 1_000n,
  ms: 1_000_000n,
  s: 1_000_000_000n,
  m: 60_000_000_000n,
  h: 3_600_000_000_000n,
};

export function parseDuration(text: string): Value {
  if (/^[+-]?0$/.test(text)) return new Duration(0n);
  if (text.length > 61 || !/^[+-]?((\d+(\.\d*)?|\.\d+)(ns|us|µs|ms|s|m|h))+$/.test(text)) return new Failure('no length of time');
  let ns = 0n;
  for (const [, amount, unit] of text.matchAll(/([\d.]+)(ns|us|µs|ms|s|m|h)/g)) {
    const [wholes, parts = ''] = amount!.split('.') as [string, string?];
    ns += (BigInt(wholes + parts) * units[unit!]!) / 10n ** BigInt(parts.length);
  }
  return duration(text.startsWith('-') ? -ns : ns);
}

export function momentText({ ns }: Moment): string {
  const fraction = String(ns - floorDivide(ns, 1_000_000_000n) * 1_000_000_000n).padStart(9, '0');
  const digits = fraction.replace(/(000){1,3}$/, '');
  return new Date(Number(floorDivide(ns, 1_000_000_000n)) * 1000).toISOString().slice(0, 19) + (digits && `.${digits}`) + 'Z';
}

export function durationText({ ns }: Duration): string {
  const size = ns < 0n ? -ns : ns;
  const fraction = String(size % 1_000_000_000n)
    .padStart(9, '0')
    .replace(/0+$/, '');
  return `${ns < 0n ? '-' : ''}${size / 1_000_000_000n}${fraction && `.${fraction}`}s`;
}

/** The moment moved so that its UTC parts are the local ones of a zone: an IANA name or an offset; a failure for a zone there is not. */
function inZone(at: Moment, zone: string): Date | Failure {
  const offset = /^([+-]?)(\d\d):(\d\d)$/.exec(zone);
  if (offset) return new Date(at.ms + (offset[1] === '-' ? -1 : 1) * (Number(offset[2]) * 60 + Number(offset[3])) * 60_000);
  try {
    const parts = new Intl.DateTimeFormat('en', {
      timeZone: zone,
      hourCycle: 'h23',
      era: 'short',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
      second: 'numeric',
    });
    const of = Object.fromEntries(parts.formatToParts(new Date(at.ms)).map((part) => [part.type, part.value]));
    const local = new Date(0);
    local.setUTCFullYear(Number(of['year']), Number(of['month']) - 1, Number(of['day']));
    local.setUTCHours(Number(of['hour']), Number(of['minute']), Number(of['second']), Number(((at.ms % 1000) + 1000) % 1000));
    return local;
  } catch {
    return new Failure(`no time zone '${zone}'`);
  }
}

/** getFullYear() and its like, of a moment in a zone or of a length of time. */
export function timePart(name: string, of: Moment | Duration, zone: Value | undefined): Value {
  if (of instanceof Duration) {
    const size = { getHours: units['h'], getMinutes: units['m'], getSeconds: units['s'] }[name];
    return size !== undefined ? of.ns / size : name === 'getMilliseconds' ? (of.ns / 1_000_000n) % 1000n : failed(name);
  }
  const at = inZone(of, zone === undefined ? '00:00' : typeof zone === 'string' ? zone : '?');
  if (at instanceof Failure) return at;
  switch (name) {
    case 'getFullYear':
      return BigInt(at.getUTCFullYear());
    case 'getMonth':
      return BigInt(at.getUTCMonth());
    case 'getDate':
      return BigInt(at.getUTCDate());
    case 'getDayOfMonth':
      return BigInt(at.getUTCDate() - 1);
    case 'getDayOfWeek':
      return BigInt(at.getUTCDay());
    case 'getDayOfYear': {
      const start = new Date(0).setUTCFullYear(at.getUTCFullYear(), 0, 1);
      return BigInt(Math.floor((at.getTime() - start) / 86_400_000));
    }
    case 'getHours':
      return BigInt(at.getUTCHours());
    case 'getMinutes':
      return BigInt(at.getUTCMinutes());
    case 'getSeconds':
      return BigInt(at.getUTCSeconds());
    case 'getMilliseconds':
      return BigInt(at.getUTCMilliseconds());
    default:
      return failed(name);
  }
}
