/* A shape turned into the path that it draws, in all states. Pure. */
import svgpath from 'svgpath';
import type { Layer, Look, Operation, Piece } from '../../../api/contract';
import { outlineOf } from '../../player';
import { textOf } from '../../../shared/text/values';
import { placed, propertiesOf } from '../tree';
import { CannotBe } from './cannotBe';
import type { Edit } from './edit';
import { traitsOf } from './traits';
import type { Values } from './values';

/** What a path has not. */
const OF_BOXES = ['radius_top_left', 'radius_top_right', 'radius_bottom_right', 'radius_bottom_left', 'stroke_align'];
const OUTWARDS: Record<string, number> = { inside: -0.5, centre: 0, outside: 0.5 };

/** Its stroke lies on the path then, so that the path runs along the middle of it. Throws CannotBe where something
 * beside states speaks of what a path has not. */
export function toPath(piece: Piece, id: string): Edit {
  const { layer, path: at } = placed(piece, id);
  if (layer.kind !== 'rectangle' && layer.kind !== 'ellipse')
    throw new CannotBe(`${layer.name} is no rectangle or ellipse. Choose one.`);
  refuseWhatElseSpeaks(piece, layer);
  const base = lookOf(layer);
  const view: [number, number] = [Math.max(Number(base.width), 1), Math.max(Number(base.height), 1)];
  const d = drawn(layer.kind, base, view);
  const value = {
    ...without(layer as unknown as Values),
    kind: 'path',
    path: d,
    view_width: view[0],
    view_height: view[1],
  };
  const states = piece.states.flatMap(({ changes }, s): Operation[] => {
    const own = changes?.[id] as Values | undefined;
    if (!own) return [];
    const there = drawn(layer.kind, { ...base, ...own }, view);
    const kept = { ...without(own), ...(there !== d && { path: there }) };
    return [{ op: 'add', path: `/states/${s}/changes/${id}`, value: kept }];
  });
  const lanes = (piece.transitions ?? []).flatMap((way, t): Operation[] => {
    const left = (way.lanes ?? []).filter((lane) => lane.layer !== id || !OF_BOXES.includes(lane.property ?? ''));
    return left.length === (way.lanes ?? []).length
      ? []
      : [{ op: 'add', path: `/transitions/${t}/lanes`, value: left }];
  });
  return { label: `${layer.name} as an outline`, patch: [{ op: 'replace', path: at, value }, ...states, ...lanes] };
}

const lookOf = (layer: Layer): Look =>
  ({
    ...Object.fromEntries(propertiesOf(layer).map(({ name, default: unsaid }) => [name, unsaid])),
    ...(layer as unknown as Values),
  }) as Look;

const without = (values: Values) =>
  Object.fromEntries(Object.entries(values).filter(([name]) => !OF_BOXES.includes(name)));

/** In the px of the view: a path is stretched from there to its width and height. */
function drawn(kind: string, look: Look, [width, height]: readonly [number, number]): string {
  const outwards = look.stroke === 'none' ? 0 : (OUTWARDS[textOf(look.stroke_align)] ?? 0) * Number(look.stroke_width);
  const stretch = (whole: number, shown: unknown) => (Number(shown) > 0 ? whole / Number(shown) : 1);
  return svgpath(outlineOf(kind, look, outwards))
    .scale(stretch(width, look.width), stretch(height, look.height))
    .round(3)
    .toString();
}

function refuseWhatElseSpeaks(piece: Piece, { id, name }: Layer): void {
  const trait = traitsOf(piece).find(({ options }) =>
    options.some(({ changes }) =>
      OF_BOXES.some((property) => property in ((changes?.[id] as Values | undefined) ?? {})),
    ),
  );
  const parameter = (piece.parameters ?? []).find(({ bind }) =>
    bind.some((each) => each.layer === id && OF_BOXES.includes(each.property ?? '')),
  );
  const current = (piece.undercurrents ?? []).find(({ courses }) =>
    courses.some((course) => course.layer === id && OF_BOXES.includes(course.property)),
  );
  const speaks = trait ?? parameter ?? current;
  if (speaks)
    throw new CannotBe(
      `${speaks.name} sets the corners or the stroke of ${name}, and a path has none. Take that out first.`,
    );
}
