/* Springs found by what is seen of them; the server knows how. */
import type { SpringShape } from '../../api/answers';
import { api } from '../../api/client';
import type { Timing } from './edits';

/** The spring that looks like this. */
export const springLike = async (shape: SpringShape): Promise<Timing> => (await api.spring(shape)).timing;

/** The same timing over another time; a spring keeps its overshoot, a share of its way. */
export async function lasting(timing: Timing, length_ms: number, overshoot: number): Promise<Timing> {
  return timing.kind === 'spring' ? springLike({ overshoot, settling_ms: length_ms }) : { ...timing, duration_ms: Math.round(length_ms) };
}
