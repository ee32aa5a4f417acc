// @vitest-environment node
// @vitest-environment node
import { describe, expect, it } from 'vitest';
import type { RecordInfo } from '../src/api/client.ts';
import type { RecordView } from '../src/runtime/preparedRecord.ts';
import {
  beginning,
  opening,
  shownIn,
  transition,
  type RecordEffect,
  type RecordEvent,
  type RecordState,
} from '../src/runtime/recordStates.ts';
import type { UnsavedEntries } from '../src/runtime/unsavedEntries.ts';

const avocet = (version: number) => ({ id: 7, version, title: 'Avocet', values: {}, references: {} }) as unknown as RecordInfo;
const view = (record: RecordInfo | undefined, release = 3) => ({ form: {}, record, given: undefined, release }) as unknown as RecordView;
const entries = (text: string): UnsavedEntries => ({ at: 0, version: 1, values: { remarks: text }, names: {} });

/** A state after events, and everything that was to be done on the way. */
function after(state: RecordState, ...events: RecordEvent[]): [RecordState, RecordEffect[]] {
  const done: RecordEffect[] = [];
  for (const event of events) {
    const [next, effects] = transition(state, event);
    state = next;
    done.push(...effects);
  }
  return [state, done];
}

const opened = (state: RecordState, record: RecordInfo | undefined = avocet(1)): RecordEvent => ({
  type: 'opened',
  ticket: state.ticket,
  view: view(record),
});
const [asked] = opening(beginning('view'), 'view');
const [reading] = after(asked, opened(asked));
const [turning] = after(reading, { type: 'edit' });
const [editing] = after(turning, opened(turning));
const [saving] = after(editing, { type: 'save', close: false });

describe('the page of a record', () => {
  it('shows what was asked for last, however late the answer before it comes', () => {
    const late: RecordEvent = { type: 'opened', ticket: turning.ticket - 1, view: view(avocet(9)) };
    expect(after(turning, late)).toEqual([turning, []]);
    expect(editing.phase).toEqual({ name: 'open', shown: { mode: 'edit', record: avocet(1), release: 3 } });
    expect(after(turning, opened(turning))[1]).toMatchObject([{ do: 'show', focus: true }]);
  });

  it('keeps the form it has where the other cannot be fetched, and what was to be put into it', () => {
    const [found] = after(reading, { type: 'entries-found', unsaved: entries('typed') }, { type: 'restore-entries' });
    const failed: RecordEvent = {
      type: 'open-failed',
      ticket: found.ticket,
      notice: { says: { text: 'No answer.' }, tone: 'bad' },
      missing: false,
    };
    const [back] = after(found, failed);
    expect(back.phase).toEqual(reading.phase);
    expect(back.unsaved).toEqual(entries('typed'));
    expect(after(found, { ...failed, missing: true })[1]).toEqual([{ do: 'forget-recent' }, { do: 'hide' }]);
  });

  it('sends what is typed once, over the version it was typed over', () => {
    expect(after(editing, { type: 'save', close: true }, { type: 'save', close: true })[1]).toEqual([
      { do: 'save', shown: { mode: 'edit', record: avocet(1), release: 3 } },
    ]);
    expect(after(reading, { type: 'save', close: false })[1]).toEqual([]);
    expect(after(saving, { type: 'cancel' }, { type: 'remove' }, { type: 'edit' })).toEqual([saving, []]);
  });

  it('goes on with what was saved: to the list, to the new record, or on where one is', () => {
    const saved: RecordEvent = { type: 'saved', record: avocet(2) };
    const [stays, done] = after(saving, saved);
    expect(stays.phase).toMatchObject({ name: 'open', shown: { mode: 'edit', record: { version: 2 } } });
    expect(done).toEqual([{ do: 'forget-entries' }, { do: 'replace', record: avocet(2) }]);
    expect(after(editing, { type: 'save', close: true }, saved)[1]).toContainEqual({ do: 'go', to: 'list' });
    const [asked] = opening(beginning('create'), 'create');
    const fresh: RecordEvent = { type: 'opened', ticket: asked.ticket, view: view(undefined) };
    expect(after(asked, fresh, { type: 'save', close: false }, saved)[1]).toContainEqual({ do: 'go', to: 7 });
  });

  it('puts problems on the form as it is now, and says what stands against saving', () => {
    const problems = [{ field: 'length', message: 'Length must be at most 40.' }];
    const refused = (formMoved: boolean): RecordEvent => ({ type: 'refused', message: 'Not saved.', problems, formMoved });
    expect(after(saving, refused(false))[1]).toEqual([{ do: 'show-problems', problems }]);
    expect(after(saving, refused(true))[1]).toEqual([{ do: 'renew', mode: 'edit', release: 3, problems }]);
    expect(after(saving, refused(true))[0].phase).toEqual(editing.phase);
    // What was renewed for the sake of a refusal leaves the refusal standing.
    const [told] = after(saving, refused(true), { type: 'renewed', release: 4, notice: undefined });
    expect([told.notice?.says, shownIn(told)?.release]).toEqual([{ text: 'Not saved.' }, 4]);
  });

  it('asks which values stand where two saved, and saves over the other', () => {
    const [between] = after(saving, { type: 'changed-by-others', theirs: avocet(5) });
    expect(between.phase.name).toBe('conflict');
    expect(after(between, { type: 'resolve', theirs: ['length'] })[1]).toEqual([
      { do: 'rebase', theirs: avocet(5), choices: ['length'] },
      { do: 'save', shown: { mode: 'edit', record: avocet(5), release: 3 } },
    ]);
    expect(after(between, { type: 'leave-conflict' })[0].phase).toEqual(editing.phase);
  });

  it('throws away what was typed only when it is saved, cancelled, discarded or not to be seen', () => {
    const draw = random(20);
    const lawful = ['saved', 'cancel', 'discard-entries', 'withdrawn'];
    let forgotten = 0;
    for (let round = 0; round < 400; round++) {
      let [state] = opening(beginning(draw(2) ? 'view' : 'create'), 'view');
      let sending = 0;
      for (let step = 0; step < 40; step++) {
        const event = someEvent(draw, state);
        const before = state;
        const [next, effects] = transition(state, event);
        state = next;
        if (effects.some((effect) => effect.do === 'forget-entries')) {
          forgotten++;
          expect(lawful).toContain(event.type);
        }
        // One request at a time changes the record, and its answer is waited for.
        if (effects.some((effect) => effect.do === 'save' || effect.do === 'remove')) {
          expect(['saving', 'removing']).not.toContain(before.phase.name);
          sending++;
        }
        if (['saving', 'removing'].includes(state.phase.name)) expect(sending).toBeGreaterThan(0);
        // Without a form there is nothing to save, and with one there is always a way on.
        if (state.phase.name === 'gone') expect(transition(state, { type: 'save', close: false })).toEqual([state, []]);
        if (!shownIn(before)) expect(effects.every((effect) => !['save', 'remove', 'put-in', 'rebase'].includes(effect.do))).toBe(true);
      }
    }
    expect(forgotten).toBeGreaterThan(100);
  });
});

/** A sequence that is the same each time (Park and Miller, 1988): whole numbers below a bound. */
function random(seed: number): (below: number) => number {
  let value = seed;
  return (below) => (value = (value * 48271) % 2147483647) % below;
}

function someEvent(draw: (below: number) => number, state: RecordState): RecordEvent {
  const events: RecordEvent[] = [
    { type: 'opened', ticket: state.ticket - draw(2), view: view(draw(4) ? avocet(draw(9)) : undefined) },
    { type: 'open-failed', ticket: state.ticket, notice: { says: { text: 'No answer.' }, tone: 'bad' }, missing: !draw(2) },
    { type: 'edit' },
    { type: 'cancel' },
    { type: 'save', close: !draw(2) },
    { type: 'invalid' },
    { type: 'saved', record: avocet(draw(9)) },
    { type: 'refused', message: 'Not saved.', problems: [], formMoved: !draw(2) },
    { type: 'changed-by-others', theirs: avocet(draw(9)) },
    { type: 'resolve', theirs: [] },
    { type: 'leave-conflict' },
    { type: 'remove' },
    { type: 'removed' },
    { type: 'failed', message: 'No answer.' },
    { type: 'entries-found', unsaved: draw(2) ? entries('typed') : undefined },
    { type: 'restore-entries' },
    { type: 'discard-entries' },
    { type: 'release' },
    { type: 'renewed', release: draw(9), notice: undefined },
    ...(draw(10) ? [] : [{ type: 'withdrawn' as const, message: 'You may not read records.' }]),
    { type: 'dismiss' },
  ];
  return events[draw(events.length)]!;
}
