/* Fonts from files and from other pieces: brought into the piece by one edit, together with the texts set in them. */
import type { Piece } from '../../api/contract';
import { api } from '../../api/client';
import { attempt, attemptNext, sayFault, useBench } from './bench';
import { reaches } from './chosen';
import { bringFont, FAMILY, freeFamily, inTurn, setLooks, shareFont, type Edit } from './edits';

/** What a chooser of fonts offers. */
export const FONT_FILES = '.ttf,.otf,.woff2';
export const isFont = ({ name }: File): boolean => /\.(ttf|otf|ttc|woff2?)$/i.test(name);

/** A font from a file; these texts are set in it. Resolves to its family; rejects with what the server says of it. */
export async function takeFont(file: File, ids: readonly string[]): Promise<string | null> {
  const taken = await api.takeFont(file);
  const family = freeFamily(taken.family);
  const { fonts } = useBench.getState();
  return (await bring(family, ids, (piece) => bringFont(piece, taken, fonts[family]))) ? family : null;
}

/** A family that another piece brings. */
export async function takeShared(family: string, from: string, ids: readonly string[]): Promise<void> {
  const { files } = await api.fontFiles(from, family);
  await bring(family, ids, (piece) => shareFont(piece, family, files));
}

function bring(family: string, ids: readonly string[], edit: (piece: Piece) => Edit): Promise<boolean> {
  const bench = useBench.getState();
  if (!ids.length) return attempt(edit(bench.document));
  const scope = reaches(bench, ids);
  const looks = Object.fromEntries(ids.map((id) => [id, { [FAMILY]: family }]));
  return attemptNext((piece) =>
    inTurn(piece, edit(piece).label, [edit, (now) => setLooks(now, bench.state, looks, scope)]),
  );
}

/** The chosen text as a path of its letters, in all states. */
export async function lettersAsPath(): Promise<void> {
  const { id, layer } = useBench.getState();
  try {
    if (layer) await attempt(await api.textAsPath(id, layer));
  } catch (error) {
    sayFault(error);
  }
}
