/* Springs found by what is seen of them; the server knows how. */
import type { SpringShape } from '../../api/contract';
import { api } from '../../api/client';
import { tell } from './bench';
import type { Timing } from './edits';

/** The spring that looks like this, with the mass and the start speed of the one before it. Says so where none does quite. */
export async function springLike(shape: SpringShape, before?: Timing): Promise<Timing> {
  const { mass = 1, velocity = 0 } = before?.kind === 'spring' ? before : {};
  const { timing, held } = await api.spring({ ...shape, mass, velocity });
  if (held) tell(held);
  return timing;
}

/** The same timing over another time; a spring keeps its overshoot, a share of its way. */
export async function lasting(timing: Timing, length_ms: number, overshoot: number): Promise<Timing> {
  return timing.kind === 'spring'
    ? springLike({ overshoot, settling_ms: length_ms }, timing)
    : { ...timing, duration_ms: Math.round(length_ms) };
}
