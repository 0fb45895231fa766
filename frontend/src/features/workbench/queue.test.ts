import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api, ApiFault } from '../../api/client';
import type { ChangeAnswer, Fault, Operation, Piece } from '../../api/contract';
import { intentOf, patched } from './edits';
import { EditQueue, useWaiting } from './queue';

const piece: Piece = {
  format: 1,
  id: 'p',
  name: 'P',
  width: 9,
  height: 9,
  states: [{ id: 'a', name: 'A' }],
  start: 'a',
};
const renamed = (name: string): Operation[] => [{ op: 'replace', path: '/name', value: name }];
const fault = (status: number, more: Partial<Fault> = {}) =>
  new ApiFault(status, { kind: 'X', message: 'No.', place: '', value: null, remedy: '', ...more });

/** A server that keeps a piece, and the page that follows it. */
function bench() {
  const now = { id: 'p', revision: 1, document: piece };
  const asked: { revision: number; label: string; burst: string }[] = [];
  const troubles: ApiFault[] = [];
  const edit = (id: string, revision: number, label: string, patch: Operation[], burst: string) => {
    const trouble = troubles.shift();
    if (trouble) return Promise.reject(trouble);
    asked.push({ revision, label, burst });
    return Promise.resolve({ id, revision: revision + 1, patch } as unknown as ChangeAnswer);
  };
  vi.spyOn(api, 'edit').mockImplementation(edit);
  const reload = vi.fn(() => Promise.resolve());
  const take = (answer: ChangeAnswer) => {
    Object.assign(now, { revision: answer.revision, document: patched(now.document, answer.patch) });
    return Promise.resolve();
  };
  const queue = new EditQueue({ now: () => now, take, reload });
  const add = (name: string) => queue.add(`Rename to ${name}`, intentOf(queue.drafted(), renamed(name)));
  return { now, asked, troubles, reload, queue, add };
}

const kept = new Map<string, string>();

beforeEach(() => {
  kept.clear();
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
});

describe('edits on their way', () => {
  it('go one after another, each at the revision that the one before it made', async () => {
    const { add, asked, now, queue } = bench();
    await Promise.all([add('one'), add('two'), add('three')]);
    expect(asked.map(({ revision, label }) => [revision, label])).toEqual([
      [1, 'Rename to one'],
      [2, 'Rename to two'],
      [3, 'Rename to three'],
    ]);
    expect([now.document.name, queue.isEmpty, kept.size]).toEqual(['three', true, 0]);
  });

  it.each([503, 401])(
    'wait while the server is away or says %i, kept through a reload, and are sent when it answers',
    async (status) => {
      // prettier-ignore
      const { add, asked, troubles, queue } = bench();
      troubles.push(fault(0), fault(status));
      const made = add('one');
      await vi.waitFor(() => expect(useWaiting.getState().why).toBe('No.'));
      expect([asked.length, queue.drafted().name, kept.get('keen-ripple waiting p')?.includes('one')]).toEqual([
        0,
        'one',
        true,
      ]);
      queue.retry();
      await vi.waitFor(() => expect(troubles).toHaveLength(0));
      await vi.waitFor(() => expect(useWaiting.getState().why).toBe('No.'));
      queue.retry();
      await made;
      expect([asked.length, kept.size, useWaiting.getState().count]).toEqual([1, 0, 0]);
    },
  );

  it('are given back where they are refused, and hold up no others', async () => {
    const { add, asked, troubles } = bench();
    troubles.push(fault(422));
    const [refused, made] = await Promise.allSettled([add('one'), add('two')]);
    expect([refused.status, made.status, asked.map(({ label }) => label)]).toEqual([
      'rejected',
      'fulfilled',
      ['Rename to two'],
    ]);
  });

  it('are not made twice where only the answer was lost', async () => {
    const { add, troubles, reload } = bench();
    troubles.push(fault(409, { kind: 'Stale', changes: [{ label: 'mine', patch: renamed('one') }] }));
    await add('one');
    expect(reload).toHaveBeenCalledWith('p');
  });
});
