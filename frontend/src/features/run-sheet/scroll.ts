/* The way scrolled as an axis: where motion along sections begins and ends, and where states are cued. Pure. */
import type { Piece } from '../../api/contract';
import { edits } from '../workbench';

export interface Stretch {
  id: string;
  name: string;
  from_px: number;
  to_px: number;
}

/** How far the content can be scrolled, px; 0 where it is no longer than the screen. */
export const farthest = (piece: Piece): number =>
  Math.max(edits.sectionsOf(piece).reduce((sum, { height }) => sum + height, 0) - piece.height, 0);

/** Each section from where its top meets that of the screen to where its end does, as far as can be scrolled. */
export function sectionsOnWay(piece: Piece): Stretch[] {
  const far = farthest(piece);
  return edits
    .placesOf(edits.sectionsOf(piece))
    .map(({ id, name, top, bottom }) => ({ id, name, from_px: Math.min(top, far), to_px: Math.min(bottom, far) }));
}

export interface Cue {
  transition: string;
  section: string;
  comes: boolean;
  at_px: number;
}

/** Where a section comes into view, or goes out of it, as somebody scrolls down; what is so from the start has no place. */
export function cuesOnWay(piece: Piece): Cue[] {
  const [far, places] = [farthest(piece), edits.placesOf(edits.sectionsOf(piece))];
  return (piece.transitions ?? []).flatMap(({ id, cue, cue_layer, cue_share }): Cue[] => {
    const place = places.find((each) => each.id === cue_layer);
    if (!place || (cue !== 'in-view' && cue !== 'out-of-view')) return [];
    const seen = (cue_share ?? 0.5) * (place.bottom - place.top);
    // Of what is larger than the screen no more than a screen is ever seen.
    if (seen > piece.height) return [];
    const at_px = cue === 'in-view' ? place.top + seen - piece.height : place.bottom - seen;
    return at_px >= 0 && at_px <= far ? [{ transition: id, section: place.name, comes: cue === 'in-view', at_px }] : [];
  });
}
