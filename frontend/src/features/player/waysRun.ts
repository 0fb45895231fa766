/* Transitions played one after the other, whatever sets them off: a run of its own, by the tapes that they have. Pure. */
import type { Run, Segment, Transition, TransitionReading } from '../../api/contract';
import { lastOf } from '../../shared/known';

/** How long a state is looked at before it is left, and after the last way. */
const REST_MS = 300;

/** It goes round and round. */
export function waysRun(
  transitions: readonly Transition[],
  readings: Readonly<Record<string, TransitionReading>>,
  undercurrents: Run['undercurrents'],
): Run {
  const segments: Segment[] = [];
  const ids: string[] = [];
  const legs: string[] = [];
  let now = 0;
  const add = (kind: Segment['kind'], from: string, to: string, length: number, id: string) => {
    segments.push({ kind, from, to, start_ms: now, end_ms: now + length });
    ids.push(id);
    legs.push(kind === 'travel' ? id : '');
    now += length;
  };
  for (const { id, from, to } of transitions) {
    add('hold', from, from, REST_MS, id);
    add('travel', from, to, readings[id]?.length_ms ?? 0, id);
    add('hold', to, to, REST_MS, id);
  }
  return {
    ...{ lead_in_ms: 0, loop_ms: now, total_ms: now, plays: null, common_loop_ms: null, common_from_ms: 0, voices: [] },
    final_state: lastOf(transitions).to,
    ...{ segments, transitions: ids, legs, undercurrents },
  };
}
