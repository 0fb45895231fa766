/* Numbers as people type them: 146, -.5, 146-42, (80+20)/2, with a comma or a point. */

/** The value of a number or a simple sum, or null where the text is neither. */
export function evaluate(text: string): number | null {
  const plain = text.replace(/[−–]/g, '-').replace(/×/g, '*').replace(/÷/g, '/').replace(/,/g, '.');
  const tokens = plain.match(/\d+\.?\d*|\.\d+|[-+*/()]|\S/g) ?? [];
  let at = 0;

  const factor = (): number => {
    const token = tokens[at++];
    if (token === '-') return -factor();
    if (token === '+') return factor();
    if (token === '(') {
      const inner = sum();
      return tokens[at++] === ')' ? inner : NaN;
    }
    return token && /^[\d.]/.test(token) ? Number(token) : NaN;
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

/** Without the dust of binary fractions. */
export const round = (value: number): number => Math.round(value * 1e6) / 1e6;

/** A number for reading: at most three places, a true minus sign. */
export function show(value: number, unit = ''): string {
  const text = String(Math.round(value * 1000) / 1000).replace('-', '−');
  return unit === '°' ? `${text}°` : text;
}
