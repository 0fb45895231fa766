/* Layers taken out, with all that is said of them. */
import type { Operation, Piece, Transition } from '../../../api/contract';
import { placed, stateNamed, walk } from '../tree';
import { inTurn, type Edit } from './edit';
import { namesOf } from './layers';
import { unbound } from './parameters';
import { allOptions } from './traits';
import type { Undercurrent } from './undercurrents';

/** Removes layers with all that states and transitions say of them; `touches` tells which those were. */
export function removeLayers(piece: Piece, ids: readonly string[]): Edit & { touches: string } {
  // What lies inside another of them goes with it.
  const outer = ids.filter((id) => !ids.some((other) => other !== id && inside(piece, other).has(id)));
  const edit = inTurn(
    piece,
    `Delete ${namesOf(piece, outer)}`,
    outer.map((id) => (now) => removeLayer(now, id)),
  );
  return { ...edit, touches: touchedBy(piece, new Set(outer.flatMap((id) => [...inside(piece, id)]))) };
}

const inside = (piece: Piece, id: string) => new Set(walk([placed(piece, id).layer]).map((p) => p.layer.id));

export function removeLayer(piece: Piece, id: string): Edit {
  const { layer, path } = placed(piece, id);
  const gone = inside(piece, id);
  const patch: Operation[] = [];
  piece.states.forEach((state, s) => {
    for (const name of Object.keys(state.changes ?? {}))
      if (gone.has(name)) patch.push({ op: 'remove', path: `/states/${s}/changes/${name}` });
  });
  for (const { option, path: of } of allOptions(piece))
    for (const name of Object.keys(option.changes ?? {}))
      if (gone.has(name)) patch.push({ op: 'remove', path: `${of}/changes/${name}` });
  (piece.transitions ?? []).forEach((transition, t) => {
    for (const [name, value] of Object.entries(without(transition, gone)))
      patch.push({ op: 'add', path: `/transitions/${t}/${name}`, value });
  });
  const left = (u: Undercurrent) => u.courses.some((course) => !gone.has(course.layer));
  const stopped = new Set((piece.undercurrents ?? []).filter((u) => !left(u)).map(({ id }) => id));
  if (piece.undercurrents?.some(({ courses }) => courses.some((course) => gone.has(course.layer)))) {
    const kept = piece.undercurrents.map((u) => ({
      ...u,
      courses: u.courses.filter((course) => !gone.has(course.layer)),
    }));
    patch.push({ op: 'add', path: '/undercurrents', value: kept.filter((u) => u.courses.length) });
  }
  patch.push(...unbound(piece, (bind) => gone.has(bind.layer ?? '') || stopped.has(bind.undercurrent ?? '')));
  return { label: `Delete ${layer.name}`, patch: [...patch, { op: 'remove', path }] };
}

/** What changes of a transition when these layers are gone. */
function without(
  { lanes = [], staggers = [], cue_layer, cue }: Transition,
  gone: ReadonlySet<string>,
): Partial<Transition> {
  const changed: Partial<Transition> = {};
  if (lanes.some((lane) => gone.has(lane.layer) || gone.has(lane.anchor?.layer ?? ''))) {
    // A lane that counted from one that is gone counts from the transition again.
    changed.lanes = lanes
      .filter((lane) => !gone.has(lane.layer))
      .map((lane) => (gone.has(lane.anchor?.layer ?? '') ? { ...lane, anchor: null } : lane));
  }
  if (staggers.some((stagger) => stagger.layers.some((id) => gone.has(id)))) {
    const kept = staggers.map((stagger) => ({ ...stagger, layers: stagger.layers.filter((id) => !gone.has(id)) }));
    changed.staggers = kept.filter((stagger) => stagger.layers.length > 1) as NonNullable<Transition['staggers']>;
  }
  // What lies in a copy goes with the copy.
  if (cue_layer && gone.has(cue_layer.split('/')[0] ?? ''))
    Object.assign(changed, {
      cue_layer: null,
      ...((cue === 'media-end' || cue === 'reaches') && { cue: 'hold' }),
      ...(cue === 'reaches' && { cue_state: null }),
    });
  return changed;
}

/** The states and transitions that say something of these layers, as a sentence; empty where none does. */
function touchedBy(piece: Piece, gone: ReadonlySet<string>): string {
  const stateName = (id: string) => stateNamed(piece, id).name;
  const states = piece.states
    .filter((state) => Object.keys(state.changes ?? {}).some((id) => gone.has(id)))
    .map((state) => state.name);
  const ways = (piece.transitions ?? [])
    .filter((t) => Object.keys(without(t, gone)).length)
    .map((t) => `${stateName(t.from)} → ${stateName(t.to)}`);
  const parts = [
    states.length && `what ${states.join(', ')} said of it`,
    ways.length && `its own timing in ${ways.join(', ')}`,
  ].filter(Boolean);
  return parts.join(' and ');
}
