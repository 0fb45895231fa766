/* Pieces in pieces, as the shelf knows of them. */
import type { Shelf } from '../../api/contract';

/** The revisions of all that stands in a piece, at any depth: another text whenever one of them has changed. */
export function heldBy({ pieces, uses }: Shelf, id: string): string {
  const found = new Set([id]);
  // A set is walked on while it grows.
  for (const holder of found) for (const use of uses) if (use.id === holder) found.add(use.of);
  return pieces
    .filter((entry) => entry.id !== id && found.has(entry.id))
    .map((entry) => `${entry.id} ${entry.revision}`)
    .join();
}
