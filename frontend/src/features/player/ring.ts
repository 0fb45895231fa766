/* Where the parts of a run lie on a clock face. Pure. */
import type { Run } from '../../api/contract';

/** A hold is brass, travel is glass, wherever a run is drawn. */
export const INKS = { hold: 'brass', travel: 'glass' } as const;

export interface Arc {
  kind: 'hold' | 'travel';
  /** turns from the top, 0–1 */
  from: number;
  to: number;
}

/** The part of the run that is drawn: the loop, or the whole of a run that ends. */
export function drawnPart(run: Run): { from_ms: number; length_ms: number } {
  return run.loop_ms === null
    ? { from_ms: 0, length_ms: Math.max(run.total_ms, 1) }
    : { from_ms: run.lead_in_ms, length_ms: run.loop_ms };
}

export function arcsOf(run: Run): Arc[] {
  const { from_ms, length_ms } = drawnPart(run);
  return run.segments
    .filter((s) => s.start_ms >= from_ms && s.end_ms > s.start_ms)
    .map((s) => ({
      kind: s.kind,
      from: (s.start_ms - from_ms) / length_ms,
      to: (s.end_ms - from_ms) / length_ms,
    }));
}

export function pointAt(turn: number, radius: number): [number, number] {
  const angle = turn * 2 * Math.PI;
  return [radius * Math.sin(angle), -radius * Math.cos(angle)];
}

/** SVG path data of an arc around 0, 0, a little short at both ends so that neighbours stay apart. */
export function arcPath(from: number, to: number, radius: number, gap: number): string {
  const trim = Math.min(gap / (2 * Math.PI * radius), (to - from) * 0.3);
  const [x1, y1] = pointAt(from + trim, radius);
  const [x2, y2] = pointAt(Math.min(to - trim, from + trim + 0.99999), radius);
  const large = to - from - 2 * trim > 0.5 ? 1 : 0;
  return `M${x1.toFixed(2)} ${y1.toFixed(2)}A${radius} ${radius} 0 ${large} 1 ${x2.toFixed(2)} ${y2.toFixed(2)}`;
}

/** Seconds as 1.44, one digit less from 100 s on. */
export const seconds = (ms: number) => (ms / 1000).toFixed(ms >= 100_000 ? 1 : 2);
