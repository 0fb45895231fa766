/* Which writers show a property, by kind of layer. */
import { PLAIN as PLAIN_ROWS } from '../../api/generated/catalogue';
import type { Layer } from '../../api/contract';

const of = (writer: string, ...names: string[]) => names.map((name): [string, string[]] => [name, [writer]]);
const RADII = ['radius_top_left', 'radius_top_right', 'radius_bottom_right', 'radius_bottom_left'];
const STROKE = ['stroke', 'stroke_width', 'stroke_align', 'stroke_dash', 'trim_start', 'trim_end'];
const LINE = [...STROKE, 'stroke_cap', 'stroke_join', 'stroke_dash_offset', 'trim_offset'];
const COMMON: [string, string[]][] = [
  ...of(
    'transform',
    'x',
    'y',
    'rotation',
    'scale_x',
    'scale_y',
    'skew_x',
    'skew_y',
    'rotation_x',
    'rotation_y',
    'perspective',
  ),
  ...of('origin', 'pivot_x', 'pivot_y'),
  ...of('width', 'width'),
  ...of('height', 'height'),
  ...of('opacity', 'opacity', 'visible'),
  ...of('filter', 'blur', 'brightness', 'contrast', 'saturation', 'hue'),
];
const BOXED: [string, string[]][] = [
  ...COMMON,
  ...of('background', 'fill'),
  ...of('shadow', 'shadows', ...STROKE),
  ...of('box', 'width', 'height', ...RADII, ...LINE),
];
const FRAMED: [string, string[]][] = [...COMMON, ...of('radius', ...RADII), ...of('shadow', 'shadows')];

/** What the table says can be shown by its CSS as it stands. */
export const PLAIN = new Map(PLAIN_ROWS.map((row) => [row.name, row]));

const WRITTEN: Record<Layer['kind'], Map<string, string[]>> = {
  group: merged(COMMON),
  placement: merged(COMMON),
  rectangle: merged([...BOXED, ...of('radius', ...RADII)]),
  ellipse: merged(BOXED),
  path: merged([
    ...COMMON,
    ...of('filter', 'shadows'),
    ...of('view', 'width', 'height', 'view_width', 'view_height'),
    ...of('d', 'path'),
    ...of('fill', 'fill', 'fill_rule', 'path', 'view_width', 'view_height'),
    ...of('stroke', ...LINE),
    ...of('line', 'path', 'width', 'height', 'view_width', 'view_height'),
  ]),
  text: merged([
    ...COMMON,
    ...of('filter', 'shadows'),
    ...of('color', 'fill'),
    ...of('text', 'text'),
    ...of('letters', 'font_family', 'font_axes', 'text_align'),
  ]),
  picture: merged([...FRAMED, ...of('picture', 'source', 'fit', 'focus_x', 'focus_y')]),
  medium: merged([...FRAMED, ...of('medium', 'source', 'fit', 'focus_x', 'focus_y', 'playhead', 'width', 'height')]),
};
/** Property → writers, by kind of layer. */
export const SHOWN = new Map(
  Object.entries(WRITTEN).map(([kind, written]) => {
    const plain = [...PLAIN.values()].filter((row) => row.kinds.includes(kind));
    return [kind, new Map([...written, ...plain.map((row): [string, string[]] => [row.name, [row.name]])])];
  }),
);
/** Everything that moves the outline of a mask. */
export const MASKS = [
  'x',
  'y',
  'width',
  'height',
  'rotation',
  'scale_x',
  'scale_y',
  'skew_x',
  'skew_y',
  'pivot_x',
  'pivot_y',
  'path',
  'fill_rule',
  ...RADII,
];

function merged(pairs: [string, string[]][]): Map<string, string[]> {
  const writers = new Map<string, string[]>();
  for (const [name, own] of pairs) writers.set(name, [...(writers.get(name) ?? []), ...own]);
  return writers;
}
