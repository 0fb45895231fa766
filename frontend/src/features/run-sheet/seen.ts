/* Which part of the run the sheet shows. Pure. */
export interface Seen {
  from: number;
  /** ms */
  to: number;
}

/** ms: near enough to hit a single one. */
const LEAST = 20;
/** Share of what is looked at that is left free beside it. */
const ROOM = 0.08;

/** Closer by a factor, with what is at `at` staying where it is. */
export function zoomed({ from, to }: Seen, total: number, factor: number, at: number): Seen {
  const long = Math.min(Math.max((to - from) / factor, LEAST), Math.max(total, LEAST));
  const share = (at - from) / (to - from);
  return within(at - share * long, long, total);
}

/** Further on by so many ms. */
export const shifted = ({ from, to }: Seen, total: number, by: number): Seen => within(from + by, to - from, total);

/** A part with some room around it. */
export function around(from: number, to: number, total: number): Seen {
  const room = (to - from) * ROOM;
  const long = Math.min(Math.max(to - from + 2 * room, LEAST), Math.max(total, LEAST));
  return within((from + to - long) / 2, long, total);
}

function within(from: number, long: number, total: number): Seen {
  const start = Math.min(Math.max(from, 0), Math.max(total - long, 0));
  return { from: start, to: start + long };
}
