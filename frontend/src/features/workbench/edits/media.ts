/* Media: over and over, or led by states from their beginning to their end. Pure. */
import equal from 'fast-deep-equal';
import type { Medium, Piece, Transition } from '../../../api/contract';
import { known } from '../../../shared/known';
import { round } from '../../../shared/text/sums';
import { placed, stateNamed } from '../tree';
import { CannotBe } from './cannotBe';
import { inTurn, type Edit } from './edit';
import { addLayer, setFixed } from './layers';
import { setTransition } from './transitions';
import {
  added,
  playedThrough,
  removeRound,
  roundsOf,
  undercurrentsOf,
  type Course,
  type Undercurrent,
} from './undercurrents';
import { setValues } from './values';

const PLAYHEAD = 'playhead';
type Made = Edit & { id: string };

export function mediumOf(piece: Piece, id: string): Medium {
  const { layer } = placed(piece, id);
  if (layer.kind !== 'medium') throw new CannotBe(`${layer.name} is no medium.`);
  return layer;
}

/** What plays it over and over; none where states say where it stands. */
export const playedBy = (piece: Piece, id: string): Undercurrent | undefined =>
  undercurrentsOf(piece).find(({ courses }) => courses.some((c) => c.layer === id && c.property === PLAYHEAD));

/** A medium on top that plays over and over; where it does not, it stands where most is seen of it. */
export function addMedium(piece: Piece, values: Omit<Medium, 'kind' | 'id' | 'name'>, name: string): Made {
  let id = '';
  const edit = inTurn(piece, '', [
    (now) => {
      const made = addLayer(now, 'medium', values, name);
      id = made.id;
      return made;
    },
    (now) => playRound(now, id),
  ]);
  return { ...edit, id, label: `Add ${name.toLowerCase()}` };
}

/** Over and over, at its own pace. */
export function playRound(piece: Piece, id: string): Edit {
  const { name, length_ms = 1 } = mediumOf(piece, id);
  if (playedBy(piece, id)) return { label: '', patch: [] };
  const course = { layer: id, property: PLAYHEAD, keys: playedThrough(length_ms) } as unknown as Course;
  return { ...added(piece, `${name} plays`, length_ms, [course]), label: `${name} plays over and over` };
}

/** No longer over and over: it stands where its states say. */
export function playByStates(piece: Piece, id: string): Edit {
  const own = playedBy(piece, id);
  if (!own) return { label: '', patch: [] };
  const at = own.courses.findIndex((c) => c.layer === id && c.property === PLAYHEAD);
  const round = known(roundsOf(own).find((each) => each.at.includes(at)));
  const alone = { ...round, at: [at], layers: [id] };
  return { ...removeRound(piece, own, alone), label: `${mediumOf(piece, id).name} stands where states say` };
}

export const often = (times: number) => (times === 1 ? 'once' : `${times} times`);

export const waysTo = (piece: Piece, state: string): readonly Transition[] =>
  (piece.transitions ?? []).filter((way) => way.to === state);

const waysFrom = (piece: Piece, state: string) =>
  (piece.transitions ?? []).filter((way) => way.from === state && way.style !== 'cut');
const durationOf = ({ timing }: Transition) => (timing.kind === 'spring' ? 0 : timing.duration_ms);

type Lane = NonNullable<Transition['lanes']>[number];
const ofPlayhead = (layer: string) => ({ layer, property: PLAYHEAD });
/** From one end to the other, so often, with a jump back in between. */
const atItsPace = (length_ms: number, times: number) =>
  ({ kind: 'curve', duration_ms: length_ms * times, easing: times > 1 ? again(times) : 'linear' }) as const;

function again(times: number): string {
  const turns = Array.from({ length: times - 1 }, (_, i) => `${round(((i + 1) / times) * 100)}%`);
  return `linear(0, ${turns.map((at) => `1 ${at}, 0 ${at}`).join(', ')}, 1)`;
}

function withLane(piece: Piece, way: Transition, lane: Lane): Edit {
  const others = (way.lanes ?? []).filter((own) => own.layer !== lane.layer || own.property !== lane.property);
  return setTransition(piece, way.id, '', { lanes: [...others, lane] });
}

/** Once or more often, on the way to a state, in which it stands at its end; before that at its beginning, or the other
 * way round. Throws CannotBe where nothing leads there. */
export function playOnTheWay(piece: Piece, id: string, state: string, times = 1, backwards = false): Edit {
  const { name, length_ms = 1 } = mediumOf(piece, id);
  const to = stateNamed(piece, state).name;
  const ways = waysTo(piece, state).filter((way) => way.style !== 'cut');
  if (!ways.length) throw new CannotBe(`No transition that takes time leads to ${to}. Make one first.`);
  const [start, end] = backwards ? [length_ms, 0] : [0, length_ms];
  return inTurn(piece, `${name} plays ${often(times)}${backwards ? ' backwards' : ''} on the way to ${to}`, [
    (now) => playByStates(now, id),
    (now) => setValues(now, state, id, { [PLAYHEAD]: start }, 'base'),
    (now) => setValues(now, state, id, { [PLAYHEAD]: end }, 'state'),
    ...ways.map(
      (way) => (now: Piece) => withLane(now, way, { ...ofPlayhead(id), timing: atItsPace(length_ms, times) }),
    ),
    // It stays as it ended until it is left, and is back at its beginning once that is done.
    ...waysFrom(piece, state).map(
      (way) => (now: Piece) => withLane(now, way, { ...ofPlayhead(id), style: 'cut', delay_ms: durationOf(way) }),
    ),
  ]);
}

/** Another file in its place: what played the whole of the one before plays the whole of this one. */
export function replaceMedium(
  piece: Piece,
  id: string,
  { source, length_ms }: Pick<Medium, 'source' | 'length_ms'>,
): Edit {
  const { name, length_ms: before, playhead } = mediumOf(piece, id);
  const own = playedBy(piece, id);
  const at = own?.courses.findIndex((c) => c.layer === id && c.property === PLAYHEAD) ?? -1;
  const isWhole = own?.period_ms === before && equal(own?.courses[at]?.keys, playedThrough(before));
  const atEnd = piece.states.filter((state) => state.changes?.[id]?.playhead === before).map((state) => state.id);
  const ways = (piece.transitions ?? []).filter((way) => way.lanes?.some((lane) => isWholeLane(lane, id, before)));
  return inTurn(piece, `Replace ${name}`, [
    (now) => setFixed(now, id, 'source', source),
    (now) => setFixed(now, id, 'length_ms', length_ms),
    ...(playhead === before ? [(now: Piece) => setFixed(now, id, PLAYHEAD, length_ms)] : []),
    ...(own && isWhole && own.courses.length === 1 ? [(now: Piece) => pacedAs(now, own, length_ms)] : []),
    ...atEnd.map((state) => (now: Piece) => setValues(now, state, id, { [PLAYHEAD]: length_ms }, 'state')),
    ...ways.map((way) => (now: Piece) => {
      const lanes = way.lanes?.map((lane) =>
        isWholeLane(lane, id, before)
          ? { ...lane, timing: { ...lane.timing, duration_ms: (lane.timing.duration_ms / before) * length_ms } }
          : lane,
      );
      return setTransition(now, way.id, '', { lanes });
    }),
  ]);
}

function pacedAs(piece: Piece, own: Undercurrent, length_ms: number): Edit {
  const courses = own.courses.map((course) => ({ ...course, keys: playedThrough(length_ms) }));
  const at = undercurrentsOf(piece).findIndex(({ id }) => id === own.id);
  const value = { ...own, period_ms: length_ms, courses };
  return { label: '', patch: [{ op: 'replace', path: `/undercurrents/${at}`, value }] };
}

type WholeLane = Lane & { timing: { kind: 'curve'; duration_ms: number } };

/** That it plays whole in, once or more often. */
const isWholeLane = (lane: Lane, id: string, length_ms: number): lane is WholeLane =>
  lane.layer === id &&
  lane.property === PLAYHEAD &&
  lane.timing?.kind === 'curve' &&
  lane.timing.duration_ms > 0 &&
  lane.timing.duration_ms % length_ms === 0;
