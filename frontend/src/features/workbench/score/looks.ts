/* How a cell looks, by numbers that are added up. */

/** Set in this state, rather than taken from the base. */
export const OWN = 1;
/** As in the state before. */
export const SAME = 2;
/** In the state that is being posed. */
export const POSED = 4;

export const toneOf = (look: number) => `${look & OWN ? '' : ' base'}${look & POSED ? ' posed' : ''}`;
