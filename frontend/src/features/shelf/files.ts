/* Pieces that come as files: each kind by what reads it. */
import { api } from '../../api/client';

/** What has come of files: the pieces that are new, and how many the shelf had already. */
export interface Opened {
  added: string[];
  known: number;
}

export const KINDS = '.json,.zip,.svg,application/json,application/zip,image/svg+xml';

/** One after another; the first that cannot be read ends it, and what came before it stays. */
export async function openFiles(files: readonly File[]): Promise<Opened> {
  const opened: Opened = { added: [], known: 0 };
  for (const file of files) {
    const { added, known } = await openFile(file);
    opened.added.push(...added);
    opened.known += known;
  }
  return opened;
}

function openFile(file: File): Promise<Opened> {
  const ending = /\.(\w+)$/.exec(file.name.toLowerCase())?.[1];
  if (ending === 'zip') return api.addCollection(file);
  if (ending === 'svg') return fromDrawing(file);
  if (ending === 'json') return fromDocument(file);
  throw new Error(`${file.name} is no piece. Open pieces as JSON, zips of them, or SVG drawings.`);
}

async function fromDocument(file: File): Promise<Opened> {
  const text = await file.text();
  try {
    const { id } = await api.addDocument(JSON.parse(text) as Record<string, unknown>);
    return { added: [id], known: 0 };
  } catch (error) {
    if (error instanceof SyntaxError)
      throw new Error(`${file.name} is no piece: it is not JSON. Choose a file that was saved as one.`, {
        cause: error,
      });
    throw error;
  }
}

/** A piece as large as the drawing, with one state. */
async function fromDrawing(file: File): Promise<Opened> {
  const { notes, ...drawing } = await api.intake(file.name.replace(/\.svg$/i, ''), file);
  const states = [{ id: 'first', name: 'First', changes: {} }];
  const { id } = await api.addDocument({ format: 1, id: 'drawing', ...drawing, states, start: 'first' });
  if (notes.length)
    throw new Error(`${drawing.name} is on the shelf, but not just as it was: ${notes.slice(0, 4).join('; ')}.`);
  return { added: [id], known: 0 };
}

/** What has come of several, in words. */
export function toldOf({ added, known }: Opened): string {
  const come = added.length === 1 ? '1 piece has come' : `${added.length} pieces have come`;
  return known ? `${come}; ${known} ${known === 1 ? 'was' : 'were'} here already.` : `${come}.`;
}
