/* Numbers as people type them: 146, -.5, 146-42, =(80+20)/2, 1e3, 12px, 50%, with a comma or a point. */

/** What one of a written unit is in the unit of the field; undefined for a unit that it has not. */
function measureOf(written: string, unit: string): number | undefined {
  if (written === unit || (written === 'deg' && unit === '°')) return 1;
  if (written === '%') return 0.01;
  if (written === 's' && unit === 'ms') return 1000;
  return written === 'ms' && unit === 's' ? 0.001 : undefined;
}

/** The value of a number or a simple sum in the unit of a field, or null where the text is neither. */
export function evaluate(text: string, unit = ''): number | null {
  const plain = text.replace(/[−–]/g, '-').replace(/×/g, '*').replace(/÷/g, '/').replace(/,/g, '.');
  const tokens = plain.replace(/^\s*=/, '').match(/(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?|[-+*/()]|[a-z]+|\S/gi) ?? [];
  let at = 0;

  const factor = (): number => {
    const token = tokens[at++];
    if (token === '-') return -factor();
    if (token === '+') return factor();
    if (token === '(') {
      const inner = sum();
      return tokens[at++] === ')' ? inner : NaN;
    }
    if (!token || !/^[\d.]/.test(token)) return NaN;
    const written = tokens[at] ?? '';
    if (!/^[a-z%°]/i.test(written)) return Number(token);
    at++;
    return Number(token) * (measureOf(written.toLowerCase(), unit) ?? NaN);
  };
  const product = (): number => {
    let value = factor();
    while (tokens[at] === '*' || tokens[at] === '/') value = tokens[at++] === '*' ? value * factor() : value / factor();
    return value;
  };
  const sum = (): number => {
    let value = product();
    while (tokens[at] === '+' || tokens[at] === '-')
      value = tokens[at++] === '+' ? value + product() : value - product();
    return value;
  };

  const value = sum();
  if (at !== tokens.length || !Number.isFinite(value)) return null;
  // One number is meant with all its digits; only sums leave dust.
  return tokens.filter((token) => /^[\d.]/.test(token)).length === 1 ? value : round(value);
}

/** A change of numbers: `+40`, `-10%`, `*0.5` and `/2` from what each is, anything else to the same for all; null for
 * what is neither. A minus alone counts down; `=-5` is that number. */
export function changeOf(text: string, unit = ''): ((from: number) => number) | null {
  const [, sign = '', rest = '', percent] = /^\s*([-+*/×÷−])?\s*(.*?)\s*(%)?\s*$/.exec(text) ?? [];
  const value = evaluate(sign ? rest : text, unit);
  if (value === null) return null;
  if (percent && sign)
    return sign === '+'
      ? (n) => n * (1 + value / 100)
      : sign === '-' || sign === '−'
        ? (n) => n * (1 - value / 100)
        : null;
  if (sign === '*' || sign === '×') return (n) => n * value;
  if (sign === '/' || sign === '÷') return value === 0 ? null : (n) => n / value;
  if (sign === '+') return (n) => n + value;
  return sign ? (n) => n - value : () => value;
}

/** Without the dust of binary fractions. */
export const round = (value: number): number => Math.round(value * 1e6) / 1e6;

/** A number for reading: at most three places, a true minus sign. */
export function show(value: number, unit = ''): string {
  const text = String(Math.round(value * 1000) / 1000).replace('-', '−');
  return unit === '°' ? `${text}°` : text;
}
