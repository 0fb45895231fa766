/* What rows of a tape hold: numbers and colours as they are, all else by the form that comes with the track. */
import type { Form, Gradient, PathForm, Shadow, Stop, Value } from '../../api/contract';
import { known } from '../../shared/known';

const rgb = (row: Float64Array, at: number) =>
  `rgb(${known(row[at]).toFixed(1)} ${known(row[at + 1]).toFixed(1)} ${known(row[at + 2]).toFixed(1)} / ${known(row[at + 3]).toFixed(4)})`;

/** The value of a property that a row shows. */
export function valueOf(form: Form | null, row: Float64Array, columns: number): Value {
  if (!form) return columns === 1 ? known(row[0]) : rgb(row, 0);
  switch (form.kind) {
    case 'switch':
      return form.values[known(row[0]) >= 0.5 ? 1 : 0];
    case 'fade':
      if (known(row[0]) <= 0 || known(row[0]) >= 1) return form.values[known(row[0]) >= 1 ? 1 : 0];
      return { kind: 'fade', from: form.values[0], to: form.values[1], share: known(row[0]) };
    case 'inverse':
      return known(row[0]) > 0 ? 1 / known(row[0]) : 0;
    case 'lengths':
      return [...row.subarray(0, columns)];
    case 'axes':
      return form.axes.map((axis, i) => ({ axis, value: known(row[i]) }));
    case 'path':
      return pathText(form, known(row[0]));
    case 'shadows':
      return form.inset.map((inset, i): Shadow => {
        const [x, y, blur, spread] = row.subarray(4 * i, 4 * i + 4);
        return {
          x: known(x),
          y: known(y),
          blur: known(blur),
          spread: known(spread),
          inset,
          colour: rgb(row, 4 * (form.inset.length + i)),
        };
      });
    case 'gradient': {
      const places = form.numbers.length;
      const colours = places + form.stops;
      const stops = Array.from({ length: form.stops }, (_, i): Stop => ({
        at: known(row[places + i]),
        colour: rgb(row, colours + 4 * i),
      }));
      const numbers = Object.fromEntries(form.numbers.map((name, i) => [name, known(row[i])]));
      return { kind: form.gradient, ...numbers, stops } as Gradient;
    }
  }
}

const OPERANDS: Record<string, number> = { M: 2, L: 2, Q: 4, C: 6, Z: 0 };

function pathText({ commands, from, to }: PathForm, share: number): string {
  let text = '';
  let at = 0;
  for (const letter of commands) {
    text += letter;
    for (const end = at + known(OPERANDS[letter]); at < end; at++)
      text += `${(known(from[at]) + share * (known(to[at]) - known(from[at]))).toFixed(3)} `;
  }
  return text;
}
