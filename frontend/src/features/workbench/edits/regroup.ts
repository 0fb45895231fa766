/* Layers moved among groups, so that every state looks as before. */
import type { Layer, Look, Piece, Pose } from '../../../api/contract';
import { chainTo, matrixOf } from '../../../shared/geometry/matrix';
import { known } from '../../../shared/known';
import { round } from '../../../shared/text/sums';
import { placed, walk } from '../tree';
import { CannotBe } from './cannotBe';
import { inTurn, type Edit } from './edit';
import { namesOf, shiftLayer } from './layers';
import { patched } from './patched';
import { setCells, type Cell, type Values } from './values';

/** Where layers go: in front of another one or behind it, in its group; or to the front of a group. */
export type Goal = { beside: string; where: 'above' | 'below' } | { into: string };

type Poses = Readonly<Record<string, Pose>>;

/** Moves layers, with all that is in them, in the order in which they are painted. */
export function regroup(piece: Piece, poses: Poses, wanted: readonly string[], goal: Goal): Edit {
  const ids = walk(piece.layers ?? []).flatMap(({ layer }) => (wanted.includes(layer.id) ? [layer.id] : []));
  const around = groupsTo(piece, goal);
  const inside = ids.find((id) => around.some((group) => group.id === id));
  if (inside) throw new CannotBe(`${placed(piece, inside).layer.name} cannot lie in itself.`);
  const steps = ids.flatMap((id, i) => [
    (now: Piece) => moveTo(now, id, i ? { beside: known(ids[i - 1]), where: 'above' } : goal),
    (now: Piece) => keepPlace(now, piece, poses, id, around),
  ]);
  return inTurn(piece, `Move ${namesOf(piece, ids)}`, steps);
}

/** The groups in which what goes there will lie, from the outermost on. */
function groupsTo(piece: Piece, goal: Goal): Layer[] {
  const layers = piece.layers ?? [];
  return 'into' in goal ? chainTo(layers, goal.into) : chainTo(layers, goal.beside).slice(0, -1);
}

function moveTo(piece: Piece, id: string, goal: Goal): Edit {
  const from = placed(piece, id).path;
  const without = patched(piece, [{ op: 'remove', path: from }]);
  return { label: '', patch: [{ op: 'move', from, path: spotIn(without, goal) }] };
}

function spotIn(piece: Piece, goal: Goal): string {
  if ('into' in goal) return `${placed(piece, goal.into).path}/layers/-`;
  const { path, index } = placed(piece, goal.beside);
  return path.replace(/\d+$/, String(index + (goal.where === 'above' ? 1 : 0)));
}

/** What a layer has to say in another group to be seen where it was, in every state. */
function keepPlace(now: Piece, piece: Piece, poses: Poses, id: string, around: readonly Layer[]): Edit {
  const chain = chainTo(piece.layers ?? [], id);
  const nothing = { label: '', patch: [] };
  if (chain.at(-2)?.id === around.at(-1)?.id || isLaidOut(around.at(-1), poses)) return nothing;
  const ways = piece.states.map(({ id: state }) => {
    const pose = known(poses[state]);
    return {
      state,
      look: known(pose[id]),
      by: matrixOf(around, pose)
        .inverse()
        .multiply(matrixOf(chain, pose, true)),
    };
  });
  const first = known(ways[0]).by;
  const only = isShift(first) && ways.every(({ by }) => isShift(by) && near(by.e, first.e) && near(by.f, first.f));
  const outer = chain.at(-2);
  if (only && !isLaidOut(outer, poses)) {
    refuseRules(piece, poses, known(chain.at(-1)), [outer, around.at(-1)]);
    return shiftLayer(now, id, round(first.e), round(first.f));
  }
  const looks = ways.map(({ state, look, by }) => [state, seenThrough(look, by)] as const);
  if (looks.some(([, values]) => !values))
    throw new CannotBe(
      `${outer?.name ?? around.at(-1)?.name} stretches or leans what is in it. ${known(chain.at(-1)).name} would look different elsewhere.`,
    );
  return said(now, id, Object.fromEntries(looks) as Record<string, Values>);
}

/** A base that is as the start has it, and what the other states say beside that. */
function said(now: Piece, id: string, looks: Readonly<Record<string, Values>>): Edit {
  const base = known(looks[now.start]);
  const { path } = placed(now, id);
  const cells = Object.entries(looks).flatMap(([state, values]) =>
    Object.entries(values).flatMap(([property, value]): Cell[] => {
      const own = (known(now.states.find((s) => s.id === state)).changes as Record<string, Values> | undefined)?.[id];
      const differs = value !== base[property] || own?.[property] !== undefined;
      return differs ? [{ state, layer: id, property, value }] : [];
    }),
  );
  const ops = Object.entries(base).map(([name, value]) => ({ op: 'add' as const, path: `${path}/${name}`, value }));
  return { label: '', patch: [...ops, ...setCells(now, cells, '').patch] };
}

/** Where it is seen through a matrix that turns, scales and moves; null for one that does more. */
function seenThrough(look: Look, by: DOMMatrix): Values | null {
  const { a, b, c, d } = by;
  if (!by.is2D || !near(a, d) || !near(b, -c)) return null;
  const [px, py] = [Number(look.pivot_x) * Number(look.width), Number(look.pivot_y) * Number(look.height)];
  const pivot = by.transformPoint({ x: Number(look.x) + px, y: Number(look.y) + py });
  const factor = Math.hypot(a, b);
  const values: Values = { x: round(pivot.x - px), y: round(pivot.y - py) };
  const turn = (Math.atan2(b, a) * 180) / Math.PI;
  if (!near(turn, 0)) values.rotation = round(Number(look.rotation) + turn);
  if (!near(factor, 1)) {
    values.scale_x = round(Number(look.scale_x) * factor);
    values.scale_y = round(Number(look.scale_y) * factor);
  }
  return values;
}

const near = (a: number, b: number) => Math.abs(a - b) < 1e-6;
const isShift = ({ a, b, c, d, is2D }: DOMMatrix) => is2D && near(a, 1) && near(d, 1) && near(b, 0) && near(c, 0);
const isLaidOut = (group: Layer | undefined, poses: Poses) =>
  group !== undefined && Object.values(poses).some((pose) => pose[group.id]?.layout !== 'none');

/** What follows the size of a group that changes stands elsewhere than it is written. */
function refuseRules(piece: Piece, poses: Poses, layer: Layer, groups: readonly (Layer | undefined)[]): void {
  const look = known(poses[piece.start]?.[layer.id]);
  const follows = [look.resize_x, look.resize_y].some((rule) => rule !== 'start' && rule !== undefined);
  const changing = groups.find(
    (group) =>
      group &&
      piece.states.some(({ id }) => {
        const shown = poses[id]?.[group.id];
        return shown && (shown.width !== group.width || shown.height !== group.height);
      }),
  );
  if (follows && changing)
    throw new CannotBe(
      `${layer.name} follows the size of ${changing.name}, which changes between states. Set its resize rules to start first.`,
    );
}
