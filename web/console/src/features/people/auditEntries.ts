import { answer, api } from '../../api/client.ts';
import { address } from '../../shell/location.ts';
import { say, type TextKey } from '../../shell/configurator/texts.ts';

/** What an entry says beside its act: each part by its name. */
function describeDetail(detail: unknown): string {
  return Object.entries((detail ?? {}) as Record<string, unknown>)
    .map(([name, value]) => {
      const text = Array.isArray(value)
        ? value.length > 6
          ? say('auditPage.andMore', value.slice(0, 6).join(', '), value.length - 6)
          : value.join(', ')
        : String(value);
      return text === '' ? '' : `${name}: ${text}`;
    })
    .filter(Boolean)
    .join('; ');
}

/** An entry as it is listed, of whichever of the two logs. */
export interface AuditRow {
  key: string;
  at: string;
  by: string;
  act: string;
  subject: string;
  href?: string;
  more: string;
}

export interface AuditRows {
  rows: AuditRow[];
  next: string | null;
}

const acts: Record<string, TextKey> = {
  create: 'recordAct.create',
  change: 'recordAct.change',
  delete: 'recordAct.delete',
  restore: 'recordAct.restore',
};

export const ofRecords = (query: Record<string, string | number>): Promise<AuditRows> =>
  answer(api.GET('/api/audit/record-entries', { params: { query } })).then((page) => ({
    next: page.next ?? null,
    rows: page.entries.map((each) => ({
      key: `${each.entity} ${each.record} ${each.version}`,
      at: each.at,
      by: each.by,
      act: acts[each.action] ? say(acts[each.action]!) : each.action,
      subject: `${each.entity}/${each.record}`,
      href: address('records', each.entity, `${each.record}`),
      more: say('auditPage.version', each.version),
    })),
  }));

export const ofTheRest = (query: Record<string, string | number>): Promise<AuditRows> =>
  answer(api.GET('/api/audit/entries', { params: { query } })).then((page) => ({
    next: page.next ?? null,
    rows: page.entries.map((each) => ({
      key: `${each.number}`,
      at: each.at,
      by: each.by,
      act: each.action,
      subject: each.subject,
      more: describeDetail(each.detail),
    })),
  }));
