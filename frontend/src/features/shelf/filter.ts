import type { ShelfEntry } from '../../api/contract';

export const FILTERS = ['all', 'loops', 'plays once', 'on a cue'] as const;
export type Filter = (typeof FILTERS)[number];

/** What a piece does when nobody touches it; null for one that cannot be opened. */
export function kindOf(entry: ShelfEntry): Exclude<Filter, 'all'> | null {
  if (entry.fault !== null || entry.total_ms === null) return null;
  if (entry.loop_ms !== null) return 'loops';
  return entry.total_ms ? 'plays once' : 'on a cue';
}

export function filterPieces(entries: ShelfEntry[], filter: Filter, wanted: string): ShelfEntry[] {
  const word = wanted.trim().toLowerCase();
  return entries.filter(
    (entry) => (filter === 'all' || kindOf(entry) === filter) && entry.name.toLowerCase().includes(word),
  );
}
