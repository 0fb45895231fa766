/* Edits of what the stage shows: places and sizes as they are seen, kept as the document writes them. */
import type { Layer, Look, Piece, Pose } from '../../api/contract';
import { round } from '../../shared/text/sums';
import { stepped } from '../../shared/ui/hands';
import { chainTo, localMatrix, matrixOf, through } from '../../shared/geometry/matrix';
import { attempt, attemptNext, makeNext, queue, useBench } from './bench';
import { reaches } from './chosen';
import { placeOf } from './tree';
import { inTurn, setCells, setLooks, valueOf, type Cell, type Edit, type Values } from './edits';
import { known } from '../../shared/known';
import { textOf } from '../../shared/text/values';

/** A resize rule shows a layer elsewhere than it is written: what is written is what the rule makes that of. */
export function written(piece: Piece, pose: Pose, looks: Record<string, Values>): Record<string, Values> {
  const valuesOf = (layer: string, values: Values) => {
    const group = chainTo(piece.layers ?? [], layer).at(-2);
    if (!group || known(pose[group.id]).layout !== 'none') return values;
    return Object.fromEntries(
      Object.entries(values).map(([name, value]) => [
        name,
        AXIS[name]
          ? round(unruled(name, Number(value), group, pose, textOf(known(pose[layer])[AXIS[name].rule])))
          : value,
      ]),
    );
  };
  return Object.fromEntries(Object.entries(looks).map(([layer, values]) => [layer, valuesOf(layer, values)]));
}

type Place = { place: 'x' | 'y'; size: 'width' | 'height'; rule: string };
const ACROSS: Place = { place: 'x', size: 'width', rule: 'resize_x' };
const DOWN: Place = { place: 'y', size: 'height', rule: 'resize_y' };
const AXIS: Record<string, Place> = { x: ACROSS, width: ACROSS, y: DOWN, height: DOWN };

/** Before the rule of the layer in its group: the other way round of the core's layout. */
function unruled(name: string, value: number, group: Layer, pose: Pose, rule: string): number {
  const { place, size } = known(AXIS[name]);
  const shown = known(pose[group.id]);
  const more = Number(shown[size]) - group[size];
  const isPlace = name === place;
  if (rule === 'scale') return group[size] > 0 ? (value * group[size]) / Number(shown[size]) : value;
  if (rule === 'both') return isPlace ? value : value - more;
  if (!isPlace) return value;
  return (
    { end: value - more, centre: value - more / 2, fixed: value + Number(shown[place]) - group[place] }[rule] ?? value
  );
}

/** Layers as they are to be seen in the state that is being posed. A pivot that moves leaves its layer where it is. */
export function looksEdit(looks: Record<string, Values>): Edit {
  const bench = useBench.getState();
  const { document: piece, state, poses } = bench;
  const scope = reaches(bench, Object.keys(looks));
  const pose = known(poses[state]);
  const asWritten = written(piece, pose, looks);
  const turned = Object.keys(looks).filter((id) => movesPivot(known(looks[id])));
  if (!turned.length) return setLooks(piece, state, asWritten, scope);
  for (const id of turned) {
    const shift = shiftOf(known(pose[id]), known(looks[id]));
    const at = (name: string, by: number) => round(Number(valueOf(piece, state, id, name, scope)) + by);
    const place: Values = { ...(shift[0] && { x: at('x', shift[0]) }), ...(shift[1] && { y: at('y', shift[1]) }) };
    asWritten[id] = { ...place, ...asWritten[id] };
  }
  const edit = setLooks(piece, state, asWritten, scope);
  return scope === 'state'
    ? edit
    : inTurn(piece, edit.label, [() => edit, (now) => placesOfStates(now, poses, turned, looks)]);
}

/** A number of several layers, each changed from its own, edits counted in that are still on their way. */
export function changeLooks(ids: readonly string[], name: string, change: (from: number) => number): Promise<void> {
  const bench = useBench.getState();
  const scope = reaches(bench, ids);
  return makeNext((piece) => {
    const from = (id: string) => Number(valueOf(piece, bench.state, id, name, scope));
    const looks = Object.fromEntries(ids.map((id) => [id, { [name]: round(change(from(id))) }]));
    return setLooks(piece, bench.state, looks, scope);
  });
}

const PIVOT = ['pivot_x', 'pivot_y'];
const movesPivot = (values: Values) => PIVOT.some((name) => name in values);

/** How far a layer has to go so that its box stays where it was. */
function shiftOf(look: Look, values: Values): readonly [number, number] {
  const corner = (shown: Look) => through(localMatrix(shown), [0, 0]);
  const [before, after] = [corner(look), corner({ ...look, ...values })];
  return [round(before[0] - after[0]), round(before[1] - after[1])];
}

/** The same for all states that say themselves where the layers are. */
function placesOfStates(
  piece: Piece,
  poses: Readonly<Record<string, Pose>>,
  ids: readonly string[],
  looks: Record<string, Values>,
): Edit {
  const cells = piece.states.flatMap(({ id: state, changes }) =>
    ids.flatMap((layer): Cell[] => {
      const own = (changes as Record<string, Values> | undefined)?.[layer] ?? {};
      const shift = shiftOf(known(poses[state]?.[layer]), known(looks[layer]));
      return (['x', 'y'] as const).flatMap((property, axis) =>
        property in own && shift[axis]
          ? [{ state, layer, property, value: round(Number(own[property]) + known(shift[axis])) }]
          : [],
      );
    }),
  );
  return setCells(piece, cells, '');
}

export async function showAs(looks: Record<string, Values>, label?: string): Promise<boolean> {
  const edit = looksEdit(looks);
  return attempt({ ...edit, ...(label && { label }), spoken: spokenOf(looks) });
}

/** Layers moved by so many px of the piece, from where those edits will have put them that are still on their way. */
export async function nudge(all: readonly string[], dx: number, dy: number): Promise<boolean> {
  const ids = unlocked(useBench.getState().document, all);
  if (!ids.length) return false;
  const bench = useBench.getState();
  const { document, state, poses } = bench;
  const scope = reaches(bench, ids);
  const layers = document.layers ?? [];
  const step = (id: string): [string, number][] => {
    const inverse = matrixOf(chainTo(layers, id), known(poses[state]), true).inverse();
    return [
      ['x', inverse.a * dx + inverse.c * dy],
      ['y', inverse.b * dx + inverse.d * dy],
    ];
  };
  const moved = (piece: Piece, least: number) => {
    const at = (id: string, name: string) => Number(valueOf(piece, state, id, name, scope));
    const placesOf = (id: string) => step(id).filter(([, by]) => Math.abs(by) >= least);
    return Object.fromEntries(
      ids.map((id) => [id, Object.fromEntries(placesOf(id).map(([name, by]) => [name, round(at(id, name) + by)]))]),
    );
  };
  // Spoken is the place, both ways; written is only what moves.
  const spoken = spokenOf(moved(queue.drafted(), 0));
  return stepped(() => attemptNext((piece) => ({ ...setLooks(piece, state, moved(piece, 1e-9), scope), spoken })));
}

/** Those that may be moved and deleted: neither they nor a group around them is locked. */
export const unlocked = (piece: Piece, ids: readonly string[]): string[] =>
  ids.filter((id) => !chainTo(piece.layers ?? [], id).some((layer) => layer.locked));

/** “Knob at x 24, y 12” and the like. */
function spokenOf(looks: Record<string, Values>): string {
  const { document: piece } = useBench.getState();
  const names = Object.entries(looks).map(([id, values]) => {
    const said = Object.entries(values).filter(([, value]) => typeof value !== 'object');
    return `${nameIn(piece, id)}: ${said.map(([name, value]) => `${name.replace('_', ' ')} ${textOf(value)}`).join(', ')}`;
  });
  return names.join('; ');
}

const nameIn = (piece: Piece, id: string) => placeOf(piece, id)?.layer.name ?? id;
