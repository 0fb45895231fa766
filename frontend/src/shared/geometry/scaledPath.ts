/* Path data, stretched: short enough to go along with what is handed over. Pure. */

const COMMAND = /([a-df-z])([^a-df-z]*)/gi;
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/gi;
/** Radii, turn, two flags that may stand without a gap, and an end. */
const ARC =
  /([+-]?[\d.]+(?:e[+-]?\d+)?)[\s,]*([+-]?[\d.]+(?:e[+-]?\d+)?)[\s,]*([+-]?[\d.]+(?:e[+-]?\d+)?)[\s,]*([01])[\s,]*([01])[\s,]*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)[\s,]*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)/gi;

/** SVG path data under a stretch along both axes, both above 0. */
export function scaledPath(d: string, across: number, down: number): string {
  const x = (n: number | string) => Number(n) * across;
  const y = (n: number | string) => Number(n) * down;
  return d.replace(COMMAND, (_, letter: string, rest: string) => {
    switch (letter.toUpperCase()) {
      case 'H':
        return letter + rest.replace(NUMBER, (n) => `${x(n)} `);
      case 'V':
        return letter + rest.replace(NUMBER, (n) => `${y(n)} `);
      case 'A':
        return (
          letter +
          [...rest.matchAll(ARC)]
            .map(([, rx, ry, turn, large, sweep, ex, ey]) => {
              const ellipse = stretched(Number(rx), Number(ry), Number(turn), across, down);
              return `${ellipse.join(' ')} ${large} ${sweep} ${x(ex ?? 0)} ${y(ey ?? 0)}`;
            })
            .join(' ')
        );
      default: {
        let at = 0;
        return letter + rest.replace(NUMBER, (n) => `${at++ % 2 ? y(n) : x(n)} `);
      }
    }
  });
}

/** [rx, ry, °] of an ellipse that is stretched: the lengths and the direction of its axes, by singular values. */
function stretched(rx: number, ry: number, turn: number, across: number, down: number): [number, number, number] {
  const angle = (turn * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [a, b, c, d] = [across * rx * cos, down * rx * sin, -across * ry * sin, down * ry * cos];
  // The product of the matrix with its transpose, whose axes are those of the ellipse.
  const [xx, yy, xy] = [a * a + c * c, b * b + d * d, a * b + c * d];
  const [middle, reach] = [(xx + yy) / 2, Math.hypot((xx - yy) / 2, xy)];
  const direction = (Math.atan2(2 * xy, xx - yy) / 2) * (180 / Math.PI);
  return [Math.sqrt(middle + reach), Math.sqrt(Math.max(middle - reach, 0)), direction];
}
