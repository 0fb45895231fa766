/* Gradients in outlines that CSS has no box for: boxes with the gradient, cut or masked by what is drawn. */
import type { Look } from '../../api/contract';
import { svg } from '../../shared/drawing/svg';
import { scaledPath } from '../../shared/geometry/scaledPath';
import { known } from '../../shared/known';
import { textOf } from '../../shared/text/values';
import { image } from './paint';

let serial = 0;

/** A gradient inside a path: a box as large as the view, cut along the outline. */
export function paintFill(path: SVGPathElement, look: Look): void {
  const box = boxIn(path, 'fill', typeof look.fill === 'object', (fresh) => {
    const { clipPath } = clipPathNamed(`paint-${++serial}`);
    fresh.setAttribute('clip-path', `url(#${clipPath.id})`);
    path.before(clipPath, fresh);
  });
  if (!box) return;
  const cut = known(box.previousElementSibling?.firstElementChild);
  cut.setAttribute('d', textOf(look.path));
  cut.setAttribute('clip-rule', textOf(look.fill_rule));
  const [width, height] = [Number(look.view_width), Number(look.view_height)];
  const by = beyond(textOf(look.path), width, height);
  lay(box, around(width, height, by), image(known(look.fill), by ? { width, height, by } : undefined));
}

/** The path whose stroke is to be written: its own, or of a stroke along a gradient the mask of a box with that. */
export function strokeIn(path: SVGPathElement, look: Look): SVGPathElement {
  const box = boxIn(path, 'line', typeof look.stroke === 'object', (fresh) => {
    const id = `line-${++serial}`;
    const mask = svg('mask', { id, maskUnits: 'userSpaceOnUse' }, svg('g', {}, svg('path')));
    fresh.setAttribute('mask', `url(#${id})`);
    path.after(mask, fresh);
  });
  if (!box) return path;
  const [width, height] = [Number(look.view_width ?? look.width), Number(look.view_height ?? look.height)];
  const isPath = 'path' in look;
  const [across, down] = isPath
    ? [(Number(look.width) || width) / width, (Number(look.height) || height) / height]
    : [1, 1];
  // As far as the longest miter, in the units of the outline.
  const by =
    (2 * Number(look.stroke_width)) / Math.min(across, down) + (isPath ? beyond(textOf(look.path), width, height) : 0);
  const mask = known(box.previousElementSibling);
  const area = around(width, height, by);
  lay(box, area, image(known(look.stroke), { width, height, by }));
  place(mask, area);
  const unstretched = known(mask.firstElementChild);
  // The outline stretches with its box, its stroke does not.
  unstretched.setAttribute('transform', `scale(${1 / across} ${1 / down})`);
  const line = known(unstretched.firstElementChild) as SVGPathElement;
  const d = isPath ? textOf(look.path) : (path.getAttribute('d') ?? '');
  line.setAttribute('d', across === 1 && down === 1 ? d : scaledPath(d, across, down));
  line.setAttribute('fill', 'none');
  path.style.stroke = 'none';
  return line;
}

type Area = readonly [x: number, y: number, width: number, height: number];

const around = (width: number, height: number, by: number): Area => [-by, -by, width + 2 * by, height + 2 * by];

/** How far an outline goes beyond its view at most: by its points, or roughly where they are not written one by one. */
export function beyond(d: string, width: number, height: number): number {
  const numbers = (d.match(/[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/gi) ?? []).map(Number);
  const isPlain = /^[MLQCTSZ\d\s.,e+-]*$/.test(d);
  const most = isPlain
    ? numbers.reduce((far, n, i) => Math.max(far, -n, n - (i % 2 ? height : width)), 0)
    : numbers.reduce((sum, n) => sum + Math.abs(n), 0);
  return isPlain ? most : Math.min(most, 2 * Math.max(width, height));
}

/** The box with a gradient beside a path, after what cuts it; made where it is wanted, taken away where it is not. */
function boxIn(path: SVGPathElement, name: string, isWanted: boolean, put: (fresh: Element) => void): Element | null {
  const before = known(path.parentElement).querySelector(`foreignObject.${name}`);
  if (!isWanted) {
    before?.previousElementSibling?.remove();
    before?.remove();
    return null;
  }
  if (before) return before;
  const fresh = svg('foreignObject', { class: name }, document.createElement('div'));
  put(fresh);
  return fresh;
}

const place = (element: Element, area: Area) =>
  ['x', 'y', 'width', 'height'].forEach((name, i) => element.setAttribute(name, String(area[i])));

function lay(box: Element, area: Area, background: string): void {
  place(box, area);
  const { style } = box.firstElementChild as HTMLElement;
  style.width = `${area[2]}px`;
  style.height = `${area[3]}px`;
  style.backgroundImage = background;
}

export function clipPathNamed(id: string): { clipPath: SVGClipPathElement; clip: SVGPathElement } {
  const clip = svg('path');
  return { clipPath: svg('clipPath', { id }, clip), clip };
}
