/* Edits of blocks of cells: the same, mirrored, spread, taken from a spreadsheet. */
import type { Piece, Value } from '../../../api/contract';
import { parseValue, valueText } from '../../../shared/text/values';
import { placed, propertyNamed, type RowKey, rowOf, stateNamed } from '../tree';
import type { Edit } from './edit';
import { baseOf, setCells, type Cell, type Values } from './values';
import { firstOf, known } from '../../../shared/known';
import { round } from '../../../shared/text/sums';

/** Rows and states, in the order of the score. */
export interface Cells {
  rows: readonly RowKey[];
  states: readonly string[];
}

/** What the document says: the state's own value, or the base's. */
export function writtenIn(piece: Piece, state: string, row: RowKey): Value {
  const [layer, property] = rowOf(row);
  const own = stateNamed(piece, state).changes?.[layer] as Values | undefined;
  return own?.[property] ?? baseOf(piece, layer, property);
}

const STEPWISE = ['fade', 'discrete', 'visible'];

const each = ({ rows, states }: Cells, valueAt: (row: RowKey, place: number) => Value | null): Cell[] =>
  rows.flatMap((row) =>
    states.map((state, i): Cell => ({ state, layer: rowOf(row)[0], property: rowOf(row)[1], value: valueAt(row, i) })),
  );

const count = ({ rows, states }: Cells) => `${rows.length * states.length} cells`;

export const clearCells = (piece: Piece, cells: Cells): Edit =>
  setCells(
    piece,
    each(cells, () => null),
    `${count(cells)} back to base`,
  );

/** Every row as in the first of the states. */
export const fillAcross = (piece: Piece, cells: Cells): Edit =>
  setCells(
    piece,
    each(cells, (row) => writtenIn(piece, firstOf(cells.states), row)),
    `Fill ${count(cells)} across`,
  );

/** Every number changed from what it is; what is no number stays. */
export const changeCells = (piece: Piece, cells: Cells, change: (from: number) => number): Edit =>
  setCells(
    piece,
    each(cells, (row, i) => writtenIn(piece, known(cells.states[i]), row)).map((cell) =>
      typeof cell.value === 'number' ? { ...cell, value: round(change(cell.value)) } : cell,
    ),
    `Change ${count(cells)}`,
  );

/** Every row the other way round. */
export const mirrorCells = (piece: Piece, cells: Cells): Edit =>
  setCells(
    piece,
    each(cells, (row, i) => writtenIn(piece, known(cells.states.at(-1 - i)), row)),
    `Mirror ${count(cells)}`,
  );

/** The states between the first and the last as `steps` say; what is the same in both is the same between. */
export function spreadCells(piece: Piece, cells: Cells, steps: readonly Record<string, Values>[], along: string): Edit {
  const last = cells.states.length - 1;
  const valueAt = (row: RowKey, i: number) => {
    const [layer, property] = rowOf(row);
    // Between two texts, or two choices, there is nothing to spread.
    if (STEPWISE.includes(propertyNamed(property).blend)) return writtenIn(piece, known(cells.states[i]), row);
    if (i === 0 || i === last) return writtenIn(piece, known(cells.states[i]), row);
    return steps[i - 1]?.[layer]?.[property] ?? writtenIn(piece, firstOf(cells.states), row);
  };
  return setCells(piece, each(cells, valueAt), `Spread ${count(cells)} ${along}`);
}

const fromText = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
};

/** Lines of cells with tabs between them, as spreadsheets have it. */
export const cellsText = (piece: Piece, { rows, states }: Cells): string =>
  rows.map((row) => states.map((state) => plainText(writtenIn(piece, state, row))).join('\t')).join('\n');

/** All of its digits: what is copied comes back as it was. */
const plainText = (value: Value) =>
  typeof value === 'object' ? JSON.stringify(value) : typeof value === 'number' ? String(value) : valueText(value);

/** Rows of cells as spreadsheets copy them: apart by tabs, and quoted where there are quotes, tabs or lines in them. */
export function tableOf(text: string): string[][] {
  const rows: string[][] = [[]];
  const cells = text
    .replace(/\r\n?/g, '\n')
    .replace(/\n+$/, '')
    .matchAll(/("(?:[^"]|"")*"(?=[\t\n]|$)|[^\t\n]*)(\t|\n|$)/g);
  for (const [, cell = '', end] of cells) {
    known(rows.at(-1)).push(/^".*"$/s.test(cell) ? cell.slice(1, -1).replaceAll('""', '"') : cell);
    if (end === '') break;
    if (end === '\n') rows.push([]);
  }
  return rows;
}

/** One value into all of these cells. */
export const fillWith = (cells: Cells, text: string): string =>
  cells.rows.map(() => cells.states.map(() => text).join('\t')).join('\n');

/** Takes a block of text from the first cell on; says which of its cells is wrong, and then takes none. */
export function pasteCells(piece: Piece, cells: Cells, text: string): Edit | { fault: string } {
  const lines = tableOf(text);
  const found: Cell[] = [];
  for (const [r, line] of lines.entries()) {
    for (const [c, typed] of line.entries()) {
      const [row, state] = [cells.rows[r], cells.states[c]];
      if (!row || !state)
        return {
          fault: `What you paste has ${lines.length} × ${Math.max(...lines.map((l) => l.length))} cells, and from here the score has room for ${cells.rows.length} × ${cells.states.length}. Begin further up or to the left, or copy less.`,
        };
      const [layer, property] = rowOf(row);
      if (typed.trim() === '') continue;
      const given = fromText(typed);
      const parsed =
        typeof given === 'object' && given !== null
          ? { value: given as Value }
          : parseValue(propertyNamed(property), typed.trim());
      if ('fault' in parsed)
        return {
          fault: `${propertyNamed(property).label} of ${placed(piece, layer).layer.name}, line ${r + 1}, cell ${c + 1}: ${parsed.fault}`,
        };
      found.push({ state, layer, property, value: parsed.value });
    }
  }
  return setCells(piece, found, found.length === 1 ? 'Paste a cell' : `Paste ${found.length} cells`);
}
