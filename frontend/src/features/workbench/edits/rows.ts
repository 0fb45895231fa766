/* A list filled from pasted rows: one copy for each, with values of its own. Pure. */
import type { OriginalParameter, Piece } from '../../../api/contract';
import { evaluate } from '../../../shared/text/sums';
import { known } from '../../../shared/known';
import { chainTo } from '../../../shared/geometry/matrix';
import { placed } from '../tree';
import { inTurn, type Edit } from './edit';
import { duplicateLayer, shiftLayer } from './layers';
import { toldBy, type Own } from './placements';

/** More rows than this are not taken at once. */
const MOST_ROWS = 100;
const GAP = 12;
const COLOUR = /^#[0-9a-f]{6}([0-9a-f]{2})?$|^none$/i;

export interface Rows {
  /** For each row what its copy is called, and its values by the ids of parameters. */
  rows: readonly { name: string; values: Own }[];
  /** What the columns are for, in their order. */
  columns: readonly string[];
  /** What is wrong, and where; empty where nothing is. */
  faults: readonly string[];
}

/** Lines with tabs between their cells, as spreadsheets give them. A first line of names says what the columns are;
 * without one they are the parameters in their order. Empty cells are as in the original. */
export function rowsIn(text: string, parameters: readonly OriginalParameter[]): Rows {
  const lines = text
    .split(/\r?\n/)
    .filter((line) => line.trim())
    .map((line) => line.split('\t').map((cell) => cell.trim()));
  const named = (cell: string) => parameters.find(({ name }) => name.toLowerCase() === cell.toLowerCase());
  const hasNames = !!lines[0]?.length && lines[0].every((cell) => named(cell));
  const columns = hasNames ? known(lines[0]).map((cell) => known(named(cell))) : parameters;
  const faults: string[] = [];
  const body = hasNames ? lines.slice(1) : lines;
  if (body.length > MOST_ROWS) faults.push(`These are ${body.length} rows. Paste at most ${MOST_ROWS} at once.`);
  const rows = body.slice(0, MOST_ROWS).map((cells, index) => {
    if (cells.length > columns.length)
      faults.push(`Row ${index + 1} has ${cells.length} cells, and at most ${columns.length} can be set.`);
    const values: Record<string, string | number> = {};
    columns.forEach((parameter, column) => {
      const cell = cells[column];
      if (!cell) return;
      const read = cellOf(parameter, cell);
      if (read === null)
        faults.push(
          `Row ${index + 1}: “${cell.slice(0, 40)}” is no ${parameter.name}. ${WANTED[parameter.kind] ?? ''}`,
        );
      else values[parameter.id] = read;
    });
    return { name: nameOf(columns, values) ?? `Row ${index + 1}`, values };
  });
  return { rows, columns: columns.map(({ name }) => name), faults };
}

const WANTED: Partial<Record<OriginalParameter['kind'], string>> = {
  number: 'Give a number.',
  time: 'Give whole ms.',
  colour: 'Give a colour such as #1f7a70.',
  picture: 'Pictures cannot be pasted: set them afterwards.',
};

function cellOf({ kind }: OriginalParameter, text: string): string | number | null {
  if (kind === 'number') return evaluate(text);
  if (kind === 'time') return /^\d{1,6}$/.test(text) ? Number(text) : null;
  if (kind === 'colour') return COLOUR.test(text) ? text.toLowerCase() : null;
  return kind === 'picture' ? null : text;
}

const nameOf = (columns: readonly OriginalParameter[], values: Own) => {
  const first = columns.find(({ kind, id }) => kind === 'text' && values[id] !== undefined);
  return first && String(values[first.id]).slice(0, 80);
};

/** The copy with the first of the rows, and one more for each of the others: after it in its row or column, or below. */
export function fillRows(piece: Piece, id: string, { rows }: Rows): Edit {
  const { layer } = placed(piece, id);
  const group = chainTo(piece.layers ?? [], id).at(-2);
  const isLaidOut = group && 'layout' in group && (group.layout ?? 'none') !== 'none';
  const made: string[] = [id];
  const steps = rows.slice(1).flatMap((_, index) => [
    (now: Piece) => {
      const one = duplicateLayer(now, known(made[index]));
      made.push(one.id);
      return one;
    },
    (now: Piece) =>
      isLaidOut ? { label: '', patch: [] } : shiftLayer(now, known(made[index + 1]), 0, layer.height + GAP),
  ]);
  const told = rows.map((row, index) => (now: Piece): Edit => {
    const { path } = placed(now, known(made[index]));
    const values = { ...toldBy(piece, '', id, 'base'), ...row.values };
    return {
      label: '',
      patch: [
        { op: 'add', path: `${path}/values`, value: values },
        { op: 'add', path: `${path}/name`, value: row.name },
      ],
    };
  });
  return inTurn(piece, `Fill ${rows.length} copies`, [...steps, ...told]);
}
