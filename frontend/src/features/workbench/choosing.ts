/* Choosing: layers, transitions, states, and what edits of them reach. */
import { useBench, type Bench } from './bench';
import { ALONE, chosenLayers, chosenWays, type Chosen } from './chosen';
import type { Told } from './told';

const { setState: set, getState: get } = useBench;

type Choice = Partial<Omit<Chosen, 'scopeIsChosen'> & Pick<Told, 'fault' | 'told'>>;

/** Chooses; what is chosen already tells nobody. */
export function choose(asked: Choice): void {
  const now = get();
  const placed = ('layer' in asked && asked.layer !== now.fresh) || ('state' in asked && asked.state !== now.state);
  const what = {
    ...('layer' in asked && { others: ALONE }),
    ...('transition' in asked && { alsoWays: ALONE }),
    ...(('layer' in asked || 'transition' in asked) && { undercurrent: null }),
    ...('lane' in asked && { laneProperty: null }),
    ...('scope' in asked && { scopeIsChosen: true }),
    ...(placed && { fresh: null }),
    ...asked,
  };
  if (Object.entries(what).some(([key, value]) => now[key as keyof Bench] !== value)) set(what);
}

export function chooseWays(ids: readonly string[]): void {
  choose({ transition: ids.at(-1) ?? null, alsoWays: ids.length > 1 ? ids.slice(0, -1) : ALONE, lane: null });
}

/** Chooses a transition besides those that are, or no longer. */
export function chooseWayAlso(id: string): void {
  const before = chosenWays(get());
  chooseWays(before.includes(id) ? before.filter((other) => other !== id) : [...before, id]);
}

/** Chooses a layer besides those that are, or no longer. */
export function chooseAlso(id: string): void {
  const before = chosenLayers(get());
  chooseLayers(before.includes(id) ? before.filter((other) => other !== id) : [...before, id]);
}

export function chooseLayers(ids: readonly string[]): void {
  choose({
    layer: ids.at(-1) ?? null,
    others: ids.length > 1 ? ids.slice(0, -1) : ALONE,
    ...(ids.length && { transition: null }),
  });
}
