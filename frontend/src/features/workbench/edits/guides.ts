/* Lines of one's own to which layers snap. */
import type { Piece } from '../../../api/contract';
import { round } from '../../../shared/text/sums';
import type { Edit } from './edit';

export type Way = 'upright' | 'level';

export interface OwnGuides {
  upright: readonly number[];
  level: readonly number[];
  grid: number | null;
}

export const guidesOf = ({ guides }: Pick<Piece, 'guides'>): OwnGuides => ({
  upright: guides?.upright ?? [],
  level: guides?.level ?? [],
  grid: guides?.grid ?? null,
});

export function setGuides(piece: Piece, part: Partial<OwnGuides>): Edit {
  const value = { ...guidesOf(piece), ...part };
  const isNone = !value.upright.length && !value.level.length && value.grid === null;
  return {
    label: 'grid' in part ? 'Grid' : 'Guides',
    patch: [{ op: 'add', path: '/guides', value: isNone ? null : value }],
  };
}

/** One of them somewhere else; nowhere takes it away. */
export const moveGuide = (piece: Piece, way: Way, index: number, at: number | null): Edit =>
  setGuides(piece, { [way]: inOrder(guidesOf(piece)[way].flatMap((own, i) => (i === index ? (at ?? []) : own))) });

/** Each once. */
const inOrder = (places: readonly number[]): number[] => [...new Set(places.map(round))].sort((a, b) => a - b);

/** px, and how many: as the core takes them. */
const [FARTHEST, MOST] = [8192, 100];

/** Places one after another, from the first on. */
export function parsePlaces(text: string): { value: number[] } | { fault: string } {
  const parts = text.split(/[\s,;]+/).filter(Boolean);
  const places = parts.map((part) => Number(part.replace(/px$/i, '')));
  const wrong = parts[places.findIndex((place) => !Number.isFinite(place))];
  if (wrong !== undefined)
    return { fault: `“${wrong.slice(0, 40)}” is not a number. Type places in px, such as 16, 24.5.` };
  const beyond = places.find((place) => Math.abs(place) > FARTHEST);
  if (beyond !== undefined)
    return { fault: `${beyond} lies too far away. Give places from -${FARTHEST} to ${FARTHEST} px.` };
  const value = inOrder(places);
  return value.length > MOST ? { fault: `These are ${value.length} guides. Give at most ${MOST}.` } : { value };
}
