import type { WholeAnswer } from '../../api/answers';

export const FILTERS = ['all', 'loops', 'plays once', 'on a cue'] as const;
export type Filter = (typeof FILTERS)[number];

/** What a piece does when nobody touches it. */
export function kindOf(piece: WholeAnswer): Exclude<Filter, 'all'> {
  if (piece.run.loop_ms !== null) return 'loops';
  return piece.run.segments.length ? 'plays once' : 'on a cue';
}

export function filterPieces(pieces: WholeAnswer[], filter: Filter, wanted: string): WholeAnswer[] {
  const word = wanted.trim().toLowerCase();
  return pieces.filter(
    (piece) => (filter === 'all' || kindOf(piece) === filter) && piece.document.name.toLowerCase().includes(word),
  );
}
