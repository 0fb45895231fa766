/* A piece as elements: one per layer, shown by styles. Used by the pose, the loop, the shelf and the takes. */
import type { AxisPlace, Drawn, Layer, Look, Pose, Section } from '../../api/contract';
import { CSS_UNITS } from '../../api/generated/catalogue';
import { MASKS, PLAIN, SHOWN } from './writersOf';
import { localMatrix } from '../../shared/geometry/matrix';
import { outlineOf, shapeOf } from './outline';
import { colour } from './gradients';
import { background, boxShadow, filter, image, isFade, picture } from './paint';
import { paintFill, strokeIn } from './painted';
import { endFilm, isDecodable, showFilm } from './films';
import { follow } from './followed';
import { IS_LOTTIE, showLottie } from './lotties';
import { reelOf } from './reels';
import { svg } from '../../shared/drawing/svg';
import { known } from '../../shared/known';
import { maskedBy } from './masks';
import { textOf } from '../../shared/text/values';

/** What of a piece makes its scene; the rest of it may change without a new one. */
export interface Picture {
  width: number;
  height: number;
  ground?: string | null | undefined;
  sections?: readonly Pick<Section, 'id' | 'height'>[] | undefined;
  /** What lies beyond its edge is cut off. */
  clips?: boolean | undefined;
  layers?: readonly Drawn[] | null | undefined;
}

export interface Shown {
  kind: Layer['kind'];
  element: HTMLElement | SVGElement;
  /** The outline inside the element: of a path, or of a stroke that CSS has no box for. */
  path: SVGPathElement | null;
  /** Of a mask: the outline that cuts what stands above it. */
  clip: SVGPathElement | null;
  look: Look;
}

export type Writer = (shown: Shown, look: Look) => unknown;

/** A stroke of one colour inside, neither dashed nor trimmed, is a shadow of the box; all others are an SVG path over it. */
const plainStroke = (l: Look) =>
  typeof l.stroke !== 'object' &&
  l.stroke_align === 'inside' &&
  !(l.stroke_dash as number[]).length &&
  l.trim_start === 0 &&
  l.trim_end === 1;
/** Short texts are written and read faster; a ten-thousandth of a px is seen by nobody. */
const short = (value: unknown) => Math.round(Number(value) * 1e4) / 1e4;
const OUTWARDS: Record<string, number> = { inside: -0.5, centre: 0, outside: 0.5 };

/** Which styles show which properties; a change of one property writes only its own style.
 *
 * What has no effect is left unsaid: a browser computes all styles of an element anew when one of them changes. */
const WRITERS: Record<string, Writer> = {
  transform: ({ element }, l) => {
    const turn = l.rotation ? ` rotate(${short(l.rotation)}deg)` : '';
    const scale = l.scale_x !== 1 || l.scale_y !== 1 ? ` scale(${short(l.scale_x)},${short(l.scale_y)})` : '';
    const eye = Number(l.perspective) > 0 ? ` perspective(${textOf(l.perspective)}px)` : '';
    const space =
      l.rotation_x || l.rotation_y
        ? `${eye} rotateX(${textOf(l.rotation_x)}deg) rotateY(${textOf(l.rotation_y)}deg)`
        : '';
    const skew = l.skew_x || l.skew_y ? ` skewX(${textOf(l.skew_x)}deg) skewY(${textOf(l.skew_y)}deg)` : '';
    element.style.transform = `translate(${short(l.x)}px,${short(l.y)}px)${turn}${scale}${space}${skew}`;
  },
  origin: ({ element }, l) => {
    const centred = l.pivot_x === 0.5 && l.pivot_y === 0.5;
    element.style.transformOrigin = centred ? '' : `${Number(l.pivot_x) * 100}% ${Number(l.pivot_y) * 100}%`;
  },
  width: ({ element }, l) => (element.style.width = `${short(l.width)}px`),
  height: ({ element }, l) => (element.style.height = `${short(l.height)}px`),
  opacity: ({ element }, l) => (element.style.opacity = String(short(Number(l.opacity) * Number(l.visible)))),
  radius: ({ element }, l) => {
    const corners = [l.radius_top_left, l.radius_top_right, l.radius_bottom_right, l.radius_bottom_left];
    element.style.borderRadius = corners.some(Boolean) ? corners.map((r) => `${textOf(r)}px`).join(' ') : '';
  },
  filter: ({ element, kind }, l) => (element.style.filter = filter(l, kind === 'path' || kind === 'text')),
  background: ({ element }, l) => background(element.style, known(l.fill)),
  shadow: ({ element }, l) => (element.style.boxShadow = boxShadow(l, 'stroke' in l && plainStroke(l))),
  box: (shown, l) => {
    if (plainStroke(l) && !shown.path) return;
    shown.path ??= strokePath(shown.element);
    known(shown.path.parentElement).style.display = plainStroke(l) ? 'none' : '';
    shown.path.setAttribute(
      'd',
      outlineOf(shown.kind, l, known(OUTWARDS[textOf(l.stroke_align)]) * Number(l.stroke_width)),
    );
    known(WRITERS.stroke)(shown, l);
  },
  view: ({ path, element }, l) => {
    element.setAttribute('viewBox', `0 0 ${textOf(l.view_width)} ${textOf(l.view_height)}`);
    // The outline stretches with its box, its stroke does not.
    const stretched = l.width !== l.view_width || l.height !== l.view_height;
    known(path).setAttribute('vector-effect', stretched ? 'non-scaling-stroke' : 'none');
  },
  d: ({ path }, l) => known(path).setAttribute('d', textOf(l.path)),
  fill: (shown, l) => {
    known(shown.path).style.fill = typeof l.fill === 'object' ? 'none' : colour(l.fill);
    known(shown.path).style.fillRule = l.fill_rule === 'evenodd' ? 'evenodd' : '';
    paintFill(known(shown.path), l);
  },
  stroke: ({ path }, l) => {
    const line = strokeIn(known(path), l);
    const { style } = line;
    const drawn = Number(l.trim_end) - Number(l.trim_start);
    style.stroke = drawn <= 0 ? 'none' : typeof l.stroke === 'object' ? 'white' : colour(l.stroke);
    style.strokeWidth = `${textOf(l.stroke_width)}px`;
    style.strokeLinecap = textOf(l.stroke_cap);
    style.strokeLinejoin = textOf(l.stroke_join);
    if (drawn < 1) {
      line.setAttribute('pathLength', '1');
      // A dash that begins again exactly at the end of the outline would put its cap there.
      style.strokeDasharray = `${drawn} ${1.0001 - drawn}`;
      style.strokeDashoffset = String(-Number(l.trim_start) - Number(l.trim_offset));
    } else {
      line.removeAttribute('pathLength');
      style.strokeDasharray = (l.stroke_dash as number[]).join(' ') || 'none';
      style.strokeDashoffset = `${textOf(l.stroke_dash_offset)}`;
    }
  },
  // Along a gradient, the stroke is a path of its own.
  line: (shown, l) => typeof l.stroke === 'object' && known(WRITERS.stroke)(shown, l),
  color: ({ element }, l) => {
    const plain = typeof l.fill !== 'object';
    element.style.color = plain ? colour(l.fill) : 'transparent';
    element.style.backgroundImage = plain ? 'none' : image(known(l.fill));
    element.style.backgroundClip = plain ? 'border-box' : 'text';
  },
  text: ({ element }, l) => writeText(element as HTMLElement, l),
  letters: ({ element: { style } }, l) => {
    style.fontFamily = `${JSON.stringify(l.font_family)}, sans-serif`;
    style.fontVariationSettings = variationOf(l);
    style.textAlign = l.text_align === 'centre' ? 'center' : textOf(l.text_align);
  },
  picture: ({ element }, l) => picture(element.style, l),
  medium: ({ element }, l) => medium(element as HTMLElement, l),
  mask: ({ clip, kind }, l) => {
    if (!clip) return;
    const { d, scale } = shapeOf(kind, l);
    clip.setAttribute('d', d);
    clip.setAttribute(
      'transform',
      localMatrix(l)
        .scale(...scale)
        .toString(),
    );
    clip.setAttribute('clip-rule', textOf(l.fill_rule ?? 'nonzero'));
  },
};

/** Of a property that is shown by its CSS as it stands. */
function plainWriter(name: string): Writer {
  const { css, unit } = known(PLAIN.get(name));
  return ({ element }, look) => element.style.setProperty(css, `${textOf(look[name])}${CSS_UNITS[unit] ?? unit}`);
}

export class Scene {
  readonly root = document.createElement('div');
  readonly shown = new Map<string, Shown>();
  private readonly width: number;
  private readonly height: number;

  /** What is longer than the screen is in a content of its own, which `scrollTo` moves. */
  constructor({ layers, width, height, ground, sections, clips }: Picture) {
    this.root.className = clips ? 'scene clips' : 'scene';
    this.root.style.width = `${width}px`;
    this.root.style.height = `${height}px`;
    this.root.style.background = ground ?? 'transparent';
    this.width = width;
    this.height = sections?.length ? sections.reduce((sum, section) => sum + section.height, 0) : height;
    this.fill(sections?.length ? this.content(sections) : this.root, layers ?? []);
  }

  private content(sections: readonly Pick<Section, 'id' | 'height'>[]): HTMLElement {
    this.root.classList.add('screen');
    const content = document.createElement('div');
    content.className = 'content';
    let top = 0;
    for (const { id, height } of sections) {
      const part = document.createElement('div');
      part.dataset.section = id;
      part.style.top = `${top}px`;
      part.style.height = `${height}px`;
      content.append(part);
      top += height;
    }
    content.style.height = `${top}px`;
    this.root.append(content);
    return content;
  }

  zoom(factor: number): void {
    this.root.style.transform = `scale(${factor})`;
  }

  /** Shows a whole pose; what looks as before is left alone. */
  show(pose: Pose): void {
    for (const [id, shown] of this.shown) {
      const look = pose[id];
      if (!look) continue;
      const changed = Object.keys(look).filter((name) => shown.look[name] !== look[name]);
      Object.assign(shown.look, look);
      for (const write of this.writersOf(shown, changed)) write(shown, shown.look);
    }
  }

  /** The writers that show these properties of a layer, each once. */
  writersOf(shown: Shown, names: readonly string[]): Writer[] {
    const writers = new Set(names.flatMap((name) => SHOWN.get(shown.kind)?.get(name) ?? []));
    if (shown.clip && names.some((name) => MASKS.includes(name))) writers.add('mask');
    return [...writers].map((name) => WRITERS[name] ?? plainWriter(name));
  }

  private fill(parent: Element, layers: readonly Drawn[]): void {
    let into = parent;
    for (const layer of layers) {
      const shown = this.build(layer);
      into.append(layer.pinned ? pinned(shown.element) : shown.element);
      if (layer.mask) {
        const masked = maskedBy(shown.element, layer.mask, this.width, this.height);
        shown.clip = masked.clip;
        into.append(masked.area);
        into = masked.into;
      }
    }
  }

  private build(layer: Drawn): Shown {
    const path = layer.kind === 'path' ? svg('path') : null;
    const element = path ? svg('svg', { preserveAspectRatio: 'none' }, path) : document.createElement('div');
    element.setAttribute('data-layer', layer.id);
    if (layer.locked) element.setAttribute('data-locked', '');
    element.classList.add('layer', layer.kind);
    if (layer.mask === true) element.classList.add('mask');
    const shown: Shown = { kind: layer.kind, element, path, clip: null, look: {} };
    this.shown.set(layer.id, shown);
    if (layer.layers) this.fill(element, layer.layers);
    return shown;
  }
}

/** The places on the axes of its font, as CSS writes them. */
export const variationOf = ({ font_axes }: Look): string =>
  (font_axes as AxisPlace[]).map(({ axis, value }) => `${JSON.stringify(axis)} ${value}`).join() || 'normal';

/** In its place while the content around it scrolls. */
function pinned(element: Element): HTMLElement {
  const holder = document.createElement('div');
  holder.className = 'pinned';
  holder.append(element);
  return holder;
}

function strokePath(element: Element): SVGPathElement {
  const path = svg('path', { fill: 'none' });
  element.append(svg('svg', { class: 'stroke' }, path));
  return path;
}

/** A medium stands at its playhead, moved by the tape and not by itself. Where a browser cannot read single frames, moving
 * pictures are shown as it plays them. */
function medium(element: HTMLElement, look: Look): void {
  const source = textOf(isFade(look.source) ? look.source.to : look.source);
  if (source.startsWith(IS_LOTTIE)) return showLottie(mediumIn(element, 'figure'), source, look);
  const isFilm = source.startsWith('data:video/');
  const byFrames = isFilm && isDecodable(source);
  const reel = isFilm ? null : reelOf(source);
  if (!isFilm && !reel) return picture(element.style, look);
  const shown = mediumIn(element, isFilm && !byFrames ? 'video' : 'canvas') as HTMLVideoElement | HTMLCanvasElement;
  shown.style.objectFit = textOf(look.fit);
  shown.style.objectPosition = `${Number(look.focus_x) * 100}% ${Number(look.focus_y) * 100}%`;
  const t = Number(look.playhead);
  if (shown instanceof HTMLCanvasElement) {
    if (isOther(shown, source)) {
      endFilm(shown);
      shown.dataset.frame = '';
    }
    if (byFrames) showFilm(shown, source, t, () => medium(element, look));
    else reel?.show(shown, t);
    return;
  }
  if (isOther(shown, source)) shown.src = source;
  follow(shown, t);
}

/** What media show: to ask the page for megabytes of an address takes as long as to read them. */
const sources = new WeakMap<Element, string>();

function isOther(shown: Element, source: string): boolean {
  const other = sources.get(shown) !== source;
  if (other) sources.set(shown, source);
  return other;
}

/** The one child of a medium: another kind of source needs another. */
function mediumIn(element: HTMLElement, kind: 'video' | 'canvas' | 'figure'): HTMLElement {
  const before = element.querySelector<HTMLElement>(':scope > :is(video, canvas, figure)');
  if (before?.localName === kind) return before;
  before?.remove();
  element.style.backgroundImage = 'none';
  const fresh = document.createElement(kind);
  if (fresh instanceof HTMLVideoElement) Object.assign(fresh, { muted: true, playsInline: true, preload: 'auto' });
  return element.appendChild(fresh);
}

function writeText(element: HTMLElement, { text }: Look): void {
  const shown: [string, number][] = isFade(text)
    ? [
        [textOf(text.from), 1 - text.share],
        [textOf(text.to), text.share],
      ]
    : [[textOf(text), 1]];
  while (element.children.length > shown.length) known(element.lastElementChild).remove();
  shown.forEach(([content, share], i) => {
    const span =
      (element.children[i] as HTMLElement | undefined) ?? element.appendChild(document.createElement('span'));
    if (span.textContent !== content) span.textContent = content;
    span.style.opacity = String(share);
  });
}
