/** px: the height of a row of the run sheet. */
export const ROW_H = 27;
