/* A stop more in the gradient of a layer, where somebody asks for it on the stage. */
import type { Gradient, Stop } from '../../../api/contract';
import { chainTo, matrixOf, through, type Point } from '../../../shared/geometry/matrix';
import { known } from '../../../shared/known';
import { attempt, useBench } from '../bench';
import { reaches } from '../chosen';
import { setValues } from '../edits';
import { alongOf, gradientOf, withStop } from './gradient';

/** The layer whose gradient has its axis under the pointer. */
export const axisAt = (x: number, y: number): string | undefined =>
  document
    .elementsFromPoint(x, y)
    .map((element) => element.getAttribute('data-axis'))
    .find((id) => id !== null) ?? undefined;

/** `at` is in px of the piece. */
export async function addStop(id: string, at: Point): Promise<void> {
  const bench = useBench.getState();
  const { document: piece, state, poses } = bench;
  const pose = known(poses[state]);
  const look = known(pose[id]);
  const place = through(matrixOf(chainTo(piece.layers ?? [], id), pose).inverse(), at);
  const property = gradientOf(look);
  if (!property) return;
  const paint = look[property] as Gradient;
  const along = alongOf(paint, [Number(look.width), Number(look.height)], place);
  await attempt(setValues(piece, state, id, { [property]: withStop(paint, along, shownAt) }, reaches(bench, [id])));
}

/** px of a canvas that is as long as the gradient: fine enough for a thousandth. */
const LONG = 1000;

/** What the browser itself shows there: it blends as it does in styles. */
function shownAt(stops: readonly Stop[], at: number): string {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = 1;
  const context = known(canvas.getContext('2d'));
  const gradient = context.createLinearGradient(0.5 - at * LONG, 0, 0.5 + (1 - at) * LONG, 0);
  for (const stop of stops) gradient.addColorStop(stop.at, stop.colour === 'none' ? 'transparent' : stop.colour);
  context.fillStyle = gradient;
  context.fillRect(0, 0, 1, 1);
  const bytes = [...context.getImageData(0, 0, 1, 1).data];
  const shown = bytes[3] === 255 ? bytes.slice(0, 3) : bytes;
  return `#${shown.map((byte) => byte.toString(16).padStart(2, '0')).join('')}`;
}
