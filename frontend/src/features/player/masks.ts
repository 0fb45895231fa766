/* What a mask leaves of the layers above it: inside of its outline, or as much as its content is opaque or bright. */
import type { Drawn } from '../../api/contract';
import { svg } from '../../shared/drawing/svg';
import { clipPathNamed } from './painted';

/** How many stages around are seen, at most. */
const AROUND = 1;

export interface Masked {
  /** Over the whole group, for what stands above the mask. */
  area: HTMLElement;
  /** Where layers go into it. */
  into: HTMLElement;
  clip: SVGPathElement | null;
}

let serial = 0;

/** An area over the whole group for what `mask`, an element beside it, cuts. */
export function maskedBy(mask: Element, by: Drawn['mask'], width: number, height: number): Masked {
  return typeof by === 'string' ? byContent(mask, by, width, height) : byOutline();
}

function byOutline(): Masked {
  const area = cell('masked');
  const { clipPath, clip } = clipPathNamed(`clip-${++serial}`);
  area.append(svg('svg', { width: 0, height: 0 }, clipPath));
  area.style.clipPath = `url(#${clipPath.id})`;
  return { area, into: area, clip };
}

/** No mask of CSS shows elements that live. So what cuts stands far above what is cut, in one element with it, whose filter
 * lays the one over the other. */
function byContent(mask: Element, by: string, width: number, height: number): Masked {
  const area = cell('masked');
  const [into, cutting] = [cell('masked'), cell('masked')];
  const far = (2 * AROUND + 2) * height;
  const [left, top] = [-AROUND * width, -AROUND * height];
  const [right, bottom] = [width - left, height - top];
  into.style.clipPath =
    cutting.style.clipPath = `polygon(${left}px ${top}px, ${right}px ${top}px, ${right}px ${bottom}px, ${left}px ${bottom}px)`;
  cutting.style.transform = `translateY(${-far}px)`;
  cutting.append(mask);
  const id = `masked-${++serial}`;
  const sRGB = { 'color-interpolation-filters': 'sRGB' };
  const whole = { x: left, width: right - left };
  const filter = svg(
    'filter',
    { id, filterUnits: 'userSpaceOnUse', ...whole, y: top - far, height: bottom - top + far, ...sRGB },
    svg('feOffset', { dy: far, result: 'mask' }),
    ...(by === 'brightness' ? brightness() : []),
    svg('feComposite', { in: 'SourceGraphic', in2: 'mask', operator: 'in', ...whole, y: top, height: bottom - top }),
  );
  area.append(svg('svg', { width: 0, height: 0 }, filter), into, cutting);
  area.style.filter = `url(#${id})`;
  return { area, into, clip: null };
}

/** Of what is partly transparent, by as much as it is opaque. */
const brightness = () => [
  svg('feColorMatrix', { type: 'luminanceToAlpha' }),
  svg('feComposite', { in2: 'mask', operator: 'in', result: 'mask' }),
];

function cell(name: string): HTMLElement {
  const made = document.createElement('div');
  made.className = name;
  return made;
}
