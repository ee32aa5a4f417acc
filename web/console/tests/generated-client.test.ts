// @vitest-environment node
import createClient from 'openapi-fetch';
import { describe, expect, it } from 'vitest';
import type { paths } from '../src/api/schema.gen.ts';

const { BRIGHTTIER_JOB_SERVICE: service, BRIGHTTIER_JOB_TOKEN: token } = process.env;

/** Run by GeneratedClientTests, which has a service for it: the types are those that a generator makes of docs/openapi.json. */
describe.skipIf(!service)('a client generated from the description', () => {
  it('designs a form, tries it, publishes it, and saves a record with it', async () => {
    const api = createClient<paths>({ baseUrl: service!, headers: { Authorization: `Bearer ${token}` } });
    const made = await api.POST('/api/layouts', {
      body: { key: 'tried', entity: 'berth', from: 'generated', kind: 'full', menuEntry: false, title: 'Tried' },
    });
    expect([made.response.status, made.response.headers.get('Location')]).toEqual([201, '/api/layouts/tried']);
    const edits = [{ op: 'set', node: 'identity', property: 'title', value: 'Where it is' }];
    const edited = await api.POST('/api/layouts/{key}/edits', {
      params: { path: { key: 'tried' } },
      body: { base: made.data!.revision, edits: edits as never },
    });
    expect(edited.response.status).toBe(200);
    const view = await api.GET('/api/layouts/{key}/view', { params: { path: { key: 'tried' }, query: { mode: 'edit' } } });
    expect(JSON.stringify(view.data!.form)).toContain('Where it is');
    expect(view.data!.findings.filter((finding) => finding.severity === 'error')).toEqual([]);

    const documents = [{ kind: 'layout', key: 'tried', revision: edited.data!.revision }];
    const plan = await api.POST('/api/releases/plan', { body: { documents } });
    expect(plan.data!.documents.map((each) => each.key)).toEqual(['tried']);
    const published = await api.POST('/api/releases', { body: { documents, note: 'Tried', base: plan.data!.base } });
    expect(published.response.status).toBe(201);
    const release = published.data!.release.number;
    const listed = await api.GET('/api/releases', { params: { query: { document: 'layout/tried' } } });
    expect(listed.data!.map((each) => each.number)).toEqual([release]);

    // What is wrong is told by place, and typed.
    const refused = await api.POST('/api/records/{entity}', {
      params: { path: { entity: 'berth' } },
      body: { values: { code: 'east' } as never },
    });
    expect([refused.response.status, refused.error!.problems!.some((part) => part.pointer.endsWith('code'))]).toEqual([422, true]);
    const values = { code: 'Z99', pontoon: 'A', zone: 'creek' };
    const saved = await api.POST('/api/records/{entity}', { params: { path: { entity: 'berth' } }, body: { values: values as never } });
    expect(saved.response.status, JSON.stringify(saved.error)).toBeLessThan(300);
    const read = await api.GET('/api/records/{entity}/{id}', { params: { path: { entity: 'berth', id: saved.data!.id } } });
    expect(read.data!.values).toMatchObject({ code: 'Z99' });
  });
});
