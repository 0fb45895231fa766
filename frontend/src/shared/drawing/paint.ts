/* Lines and areas of our own drawings, as attributes of SVG elements. The colours are those of the page. */

import type { Ink } from './colours';

const colour = (ink: Ink) => `var(--${ink})`;

/** A line and nothing inside of it. */
export const line = (ink: Ink, strokeWidth = 1, strokeDasharray?: string) => ({
  fill: 'none',
  stroke: colour(ink),
  strokeWidth,
  strokeDasharray,
});

/** An area, outlined if wanted. */
export const area = (fill: Ink, edge?: Ink, strokeWidth = 1) => ({
  fill: colour(fill),
  ...(edge && { stroke: colour(edge), strokeWidth }),
});
