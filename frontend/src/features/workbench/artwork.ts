/* Drawings from outside: read by the server, made part of the piece by one edit. */
import { useEffect } from 'react';
import type { Artwork, Layer, MediumFacts, Operation, Piece } from '../../api/contract';
import { api } from '../../api/client';
import type { Point } from '../../shared/geometry/path';
import { round } from '../../shared/text/sums';
import { attempt, sayFault, useBench } from './bench';
import { copyLayers, pasteLayers } from './actions';
import { choose } from './choosing';
import { addLayer, addMedium, CannotBe, scaled, withFreeIds, type Edit } from './edits';
import { chosenLayers } from './chosen';
import { isFont, takeFont } from './fonts';
import { placed, walk } from './tree';
import { lastOf } from '../../shared/known';
import { dataOf } from '../../shared/dataOf';

/** The layers on top of all others: in an empty piece, which takes their size, as they are; else as one group around a place of it, no larger than the piece. */
export function addArtwork(piece: Piece, artwork: Artwork, at: Point = middleOf(piece)): Edit & { id: string } {
  const taken = new Set(walk(piece.layers ?? []).map((p) => p.layer.id));
  const named = (layer: Layer) => withFreeIds(layer, taken);
  const label = `Take in ${artwork.name}`;
  if (!piece.layers?.length) {
    const layers = artwork.layers.map(named);
    const sides = ['width', 'height'] as const;
    const sizes = sides.map((side): Operation => ({ op: 'replace', path: `/${side}`, value: artwork[side] }));
    return { id: lastOf(layers).id, label, patch: [...sizes, { op: 'add', path: '/layers', value: layers }] };
  }
  const { name, layers } = artwork;
  const scale = Math.min(piece.width / artwork.width, piece.height / artwork.height, 1);
  const [width, height] = [round(artwork.width * scale), round(artwork.height * scale)];
  const place = { x: Math.round(at[0] - width / 2), y: Math.round(at[1] - height / 2), width, height };
  // Smaller by its own numbers, so that the group can be taken apart.
  const fitting = scale === 1 ? layers : layers.map((layer) => scaled(layer, scale));
  const group = named({ kind: 'group', id: 'artwork', name, ...place, layers: fitting });
  return { id: group.id, label, patch: [{ op: 'add', path: '/layers/-', value: group }] };
}

const MOST_NOTES = 4;

function notTaken({ name, notes }: Pick<Artwork, 'name' | 'notes'>): string {
  const more = notes.length > MOST_NOTES ? `; and ${notes.length - MOST_NOTES} more` : '';
  return `${name} is here, but not just as it was: ${notes.slice(0, MOST_NOTES).join('; ')}${more}.`;
}

/** Asks the server what is in a drawing, and adds it. What could not be taken is said across the top. */
export async function takeIn(name: string, svg: Blob, at?: Point): Promise<void> {
  try {
    const artwork = await api.intake(name, svg);
    const edit = addArtwork(useBench.getState().document, artwork, at);
    if (!(await attempt(edit))) return;
    choose({ layer: edit.id, fresh: edit.id, transition: null, told: artwork.notes.length ? notTaken(artwork) : null });
  } catch (error) {
    sayFault(error);
  }
}

/** Of pictures that may move, what their first bytes say: a chunk of an APNG, or of a WebP. */
async function isMoving(file: File): Promise<boolean> {
  if (/^video\/|^image\/gif$|\/json$/.test(file.type) || /\.json$/i.test(file.name)) return true;
  const head = new TextDecoder('latin1').decode(await file.slice(0, 4096).arrayBuffer());
  return file.type === 'image/webp' ? /^RIFF.{4}WEBPVP8X[\s\S]*ANIM/.test(head) : head.includes('acTL');
}

/** A medium from a file, as a document has it. Rejects with what the server says of it, or CannotBe. */
export async function readMedium(file: File): Promise<MediumFacts & { source: string }> {
  const facts = await api.mediumFacts(file);
  if (!facts.length_ms)
    throw new CannotBe(
      `${file.name} has one picture alone and stands still. Save it as PNG, and take it as a picture.`,
    );
  const data = await dataOf(file);
  return { ...facts, source: `data:${facts.mime};${data.slice(data.indexOf('base64,'))}` };
}

/** A medium around a place of the piece, no larger than it; it plays over and over until somebody says otherwise. */
async function takeMedium(name: string, file: File, at?: Point): Promise<void> {
  const { source, length_ms, fullest_ms, notes, ...size } = await readMedium(file);
  const { document: piece } = useBench.getState();
  const edit = addMedium(
    piece,
    { ...boxFor(piece, size, at), source, length_ms, playhead: fullest_ms },
    name || 'Medium',
  );
  const told = notes.length ? notTaken({ name, notes }) : null;
  if (await attempt(edit)) choose({ layer: edit.id, fresh: edit.id, transition: null, told });
}

const isSvg = (file: File) => file.type === 'image/svg+xml' || /\.svg$/i.test(file.name);
/** What a chooser of media offers. */
export const MEDIA_FILES = 'image/gif,image/png,image/apng,image/webp,video/mp4,video/webm,.json,application/json';
const PICTURES = ['image/png', 'image/jpeg', 'image/webp'];
/** As data in the document a picture takes a third more. */
const MOST_BYTES = 2_900_000;

/** Around a place of the piece, its middle where none is said. */
export async function takeFile(file: File, at?: Point): Promise<void> {
  const name = file.name.replace(/\.\w+$/, '');
  try {
    if (isFont(file)) await dropFont(file);
    else if (isSvg(file)) await takeIn(name, file, at);
    else if (await isMoving(file)) await takeMedium(name, file, at);
    else await takePicture(name, file, at);
  } catch (error) {
    sayFault(error);
  }
}

/** A font for the texts that are chosen; without any it is there to be chosen. */
async function dropFont(file: File): Promise<void> {
  const bench = useBench.getState();
  const texts = chosenLayers(bench).filter((id) => placed(bench.document, id).layer.kind === 'text');
  const family = await takeFont(file, texts);
  if (family && !texts.length) choose({ told: `${family} is here: choose it as the family of a text.` });
}

/** A picture from a file, as a document has it. Rejects with CannotBe for what is none, or too large. */
export async function readPicture(file: File): Promise<{ source: string; width: number; height: number }> {
  if (!PICTURES.includes(file.type))
    throw new CannotBe(
      `${file.name} is no picture that can be taken. Choose a PNG, JPEG, WebP or SVG file; a medium may be GIF, APNG, WebP, MP4, WebM or Lottie.`,
    );
  if (file.size > MOST_BYTES)
    throw new CannotBe(
      `${file.name} has ${(file.size / 1e6).toFixed(1)} MB. A picture may have ${(MOST_BYTES / 1e6).toFixed(1)} MB: save it smaller first.`,
    );
  const source = await dataOf(file);
  const { width, height } = await createImageBitmap(file).catch(() => {
    throw new CannotBe(`${file.name} cannot be read as a picture. Open it in another program and save it again.`);
  });
  return { source, width, height };
}

/** A picture around a place of the piece, no larger than it, at its own proportions. */
async function takePicture(name: string, file: File, at?: Point): Promise<void> {
  const { source, ...size } = await readPicture(file);
  const { document: piece } = useBench.getState();
  const edit = addLayer(piece, 'picture', { ...boxFor(piece, size, at), source }, name || 'Picture');
  if (await attempt(edit)) choose({ layer: edit.id, fresh: edit.id, transition: null });
}

/** Around a place of the piece, no larger than it, at its own proportions. */
function boxFor(piece: Piece, size: { width: number; height: number }, at: Point = middleOf(piece)) {
  const scale = Math.min(piece.width / size.width, piece.height / size.height, 1);
  const [width, height] = [Math.max(Math.round(size.width * scale), 1), Math.max(Math.round(size.height * scale), 1)];
  return { x: Math.round(at[0] - width / 2), y: Math.round(at[1] - height / 2), width, height };
}

const middleOf = ({ width, height }: Piece): Point => [width / 2, height / 2];

/** px by which several that are dropped at once are apart. */
const APART = 16;
const besideAnother = (at: Point | undefined, n: number): Point | undefined =>
  at && [at[0] + n * APART, at[1] + n * APART];

/** Where on the pose something was dropped, in px of the piece; nowhere for what was dropped beside it, or pasted. */
function placeOf(event: Event): Point | undefined {
  const stage = event.target instanceof Element && event.target.closest('[data-stage=pose]');
  const scene = stage && stage.querySelector('.scene');
  if (!(event instanceof DragEvent) || !(scene instanceof HTMLElement)) return undefined;
  const { x, y, width } = scene.getBoundingClientRect();
  const zoom = width / scene.offsetWidth;
  return [Math.round((event.clientX - x) / zoom), Math.round((event.clientY - y) / zoom)];
}

const isInField = ({ target }: Event) =>
  target instanceof Element && target.closest('input, textarea, [contenteditable], .score-scroll') !== null;

/** Drawings may be dropped anywhere on the bench, or pasted, as a file or as text; layers copied and pasted. */
export function useArtwork(): void {
  useEffect(() => {
    const over = (event: DragEvent) => {
      if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
    };
    const take = (event: Event, transfer: DataTransfer | null) => {
      // A file of another kind is refused in words, and not opened in place of the page.
      const files = [...(transfer?.files ?? [])];
      const text = transfer?.getData('text/plain').trim() ?? '';
      if (files.length) files.forEach((file, n) => void takeFile(file, besideAnother(placeOf(event), n)));
      else if (isInField(event)) return;
      else if (pasteLayers(text)) return event.preventDefault();
      else if (/^(<\?xml[^>]*>\s*)?(<!--.*?-->\s*|<!DOCTYPE[^>]*>\s*)*<svg[\s>]/s.test(text))
        void takeIn('Pasted', new Blob([text]));
      else return;
      event.preventDefault();
    };
    const drop = (event: DragEvent) => take(event, event.dataTransfer);
    const paste = (event: ClipboardEvent) => take(event, event.clipboardData);
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    const copy = (event: ClipboardEvent) => {
      const text = isInField(event) || window.getSelection()?.toString() ? null : copyLayers();
      if (text === null) return;
      event.clipboardData?.setData('text/plain', text);
      event.preventDefault();
    };
    window.addEventListener('paste', paste);
    window.addEventListener('copy', copy);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
      window.removeEventListener('paste', paste);
      window.removeEventListener('copy', copy);
    };
  }, []);
}
