/* What is chosen: layers, transitions, and what edits of them reach. */
import { ALONE, useBench, type Bench } from './bench';
import type { Scope } from './edits';

const { setState: set, getState: get } = useBench;

type Choice = Partial<
  Pick<
    Bench,
    | 'state'
    | 'layer'
    | 'others'
    | 'transition'
    | 'alsoWays'
    | 'lane'
    | 'scope'
    | 'fresh'
    | 'askedRows'
    | 'fault'
    | 'told'
  >
>;

/** Chooses; what is chosen already tells nobody. */
export function choose(asked: Choice): void {
  const now = get();
  const placed = ('layer' in asked && asked.layer !== now.fresh) || ('state' in asked && asked.state !== now.state);
  const what = {
    ...('layer' in asked && { others: ALONE }),
    ...('transition' in asked && { alsoWays: ALONE }),
    ...('scope' in asked && { scopeIsChosen: true }),
    ...(placed && { fresh: null }),
    ...asked,
  };
  if (Object.entries(what).some(([key, value]) => now[key as keyof Bench] !== value)) set(what);
}

/** What an edit of these layers reaches: the base of one that is just being placed, or as it was said. */
export const reaches = ({ scope, fresh }: Pick<Bench, 'scope' | 'fresh'>, ids: readonly string[]): Scope =>
  ids.length === 1 && ids[0] === fresh ? 'base' : scope;

/** All chosen layers, the one chosen last at the end. */
export const chosenLayers = ({ layer, others }: Pick<Bench, 'layer' | 'others'>): string[] =>
  layer ? [...others, layer] : [];

/** All chosen transitions, the one chosen last at the end. */
export const chosenWays = ({ transition, alsoWays }: Pick<Bench, 'transition' | 'alsoWays'>): string[] =>
  transition ? [...alsoWays, transition] : [];

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
