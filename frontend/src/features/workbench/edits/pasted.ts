/* Layers as text, from piece to piece, with what states say of them. */
import type { FontFamily, Layer, Operation, Piece } from '../../../api/contract';
import { placed, walk } from '../tree';
import { inTurn, named, type Edit } from './edit';
import { fontsOf, shareFont, textsIn } from './fonts';
import { freeLayerName, idsOf, withFreeIds } from './layers';
import { patched } from './patched';

const KIND = 'keen-ripple layers';

interface Copied {
  kind: typeof KIND;
  layers: Layer[];
  /** By the names of states, which may be there in another piece too. */
  looks: Record<string, Record<string, object>>;
  /** The families that they are set in, as far as their piece brings them. */
  fonts: readonly FontFamily[];
}

/** These layers, in painting order, with all that is in them. */
export function layersText(piece: Piece, ids: readonly string[]): string {
  const layers = walk(piece.layers ?? []).flatMap(({ layer }) => (ids.includes(layer.id) ? [layer] : []));
  const all = walk(layers).map(({ layer }) => layer.id);
  const looks = Object.fromEntries(
    piece.states.map(({ name, changes }) => [
      name,
      Object.fromEntries(Object.entries(changes ?? {}).filter(([id]) => all.includes(id))),
    ]),
  );
  const fonts = fontsOf(piece).filter(({ family }) => textsIn(piece, family).some((id) => all.includes(id)));
  return JSON.stringify({ kind: KIND, layers, looks, fonts } satisfies Copied);
}

/** What was copied; null for any other text. */
export function copiedIn(text: string): Copied | null {
  if (!text.includes(KIND)) return null;
  try {
    const found = JSON.parse(text) as Partial<Copied>;
    const { kind, layers, looks, fonts } = found;
    if (kind !== KIND || !Array.isArray(layers) || !layers.length || !layers.every(isLayer)) return null;
    return { kind, layers, looks: looks ?? {}, fonts: Array.isArray(fonts) ? fonts : [] };
  } catch {
    return null;
  }
}

/** As far as it is needed to name it anew; the server says what else is wrong with it. */
const isLayer = (found: unknown): found is Layer => {
  const { id, name, layers } = (found ?? {}) as Partial<Record<string, unknown>>;
  const isWhole = layers === undefined || (Array.isArray(layers) && layers.every(isLayer));
  return typeof id === 'string' && typeof name === 'string' && isWhole;
};

/** On top of a piece, or of a group in it, by names and ids of their own. */
export function pasteLayers(
  piece: Piece,
  { layers, looks, fonts }: Copied,
  into: string | null,
): Edit & { ids: string[] } {
  const taken = new Set(idsOf(piece));
  const renamed = new Map<string, string>();
  const list = into ? `${placed(piece, into).path}/layers` : '/layers';
  const patch: Operation[] = piece.layers ? [] : [{ op: 'add', path: '/layers', value: [] }];
  let now = piece;
  const ids = layers.map((layer) => {
    const value = { ...withFreeIds(layer, taken, renamed), name: freeLayerName(now, layer.name) };
    const step: Operation = { op: 'add', path: `${list}/-`, value };
    now = patched(now, [...(now.layers ? [] : patch), step]);
    patch.push(step);
    return value.id;
  });
  piece.states.forEach((state, s) => {
    const said = Object.entries(looks[state.name] ?? {}).flatMap(([id, look]) => {
      const fresh = renamed.get(id);
      return fresh ? [[fresh, look] as const] : [];
    });
    if (!said.length) return;
    if (!state.changes) patch.push({ op: 'add', path: `/states/${s}/changes`, value: {} });
    for (const [id, look] of said) patch.push({ op: 'add', path: `/states/${s}/changes/${id}`, value: look });
  });
  return {
    ids,
    label: `Paste ${named(
      layers.map((layer) => layer.name),
      'layers',
    )}`,
    patch: [
      ...inTurn(
        piece,
        '',
        fonts.map(
          ({ family, files }) =>
            (now) =>
              shareFont(now, family, files),
        ),
      ).patch,
      ...patch,
    ],
  };
}
