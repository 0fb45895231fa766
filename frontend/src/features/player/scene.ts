/* A piece as elements: one per layer, shown by styles. Used by the pose, the loop, the shelf and the thumbnails. */
import type { Layer, Look, Pose } from '../../api/answers';

const SVG = 'http://www.w3.org/2000/svg';

const colour = (value: unknown) => (value === 'none' ? 'transparent' : String(value));

/** Which styles show which properties; a change of one property writes only its own style. */
const WRITERS: Record<string, (style: CSSStyleDeclaration, look: Look) => void> = {
  transform: (style, l) => {
    const turn = l.rotation ? ` rotate(${l.rotation}deg)` : '';
    const scale = l.scale_x !== 1 || l.scale_y !== 1 ? ` scale(${l.scale_x},${l.scale_y})` : '';
    style.transform = `translate(${l.x}px,${l.y}px)${turn}${scale}`;
  },
  origin: (style, l) => (style.transformOrigin = `${Number(l.pivot_x) * 100}% ${Number(l.pivot_y) * 100}%`),
  width: (style, l) => (style.width = `${l.width}px`),
  height: (style, l) => (style.height = `${l.height}px`),
  opacity: (style, l) => (style.opacity = String(l.opacity)),
  radius: (style, l) => {
    const corners = [l.radius_top_left, l.radius_top_right, l.radius_bottom_right, l.radius_bottom_left];
    style.borderRadius = corners.map((r) => `${r}px`).join(' ');
  },
  background: (style, l) => (style.backgroundColor = colour(l.fill)),
  inner: (style, l) => (style.boxShadow = l.stroke === 'none' ? 'none' : `inset 0 0 0 ${l.stroke_width}px ${l.stroke}`),
  fill: (style, l) => (style.fill = colour(l.fill)),
  stroke: (style, l) => (style.stroke = colour(l.stroke)),
  strokeWidth: (style, l) => (style.strokeWidth = `${l.stroke_width}px`),
  color: (style, l) => (style.color = colour(l.fill)),
  fontSize: (style, l) => (style.fontSize = `${l.font_size}px`),
};

const COMMON: Record<string, string> = {
  x: 'transform',
  y: 'transform',
  rotation: 'transform',
  scale_x: 'transform',
  scale_y: 'transform',
  pivot_x: 'origin',
  pivot_y: 'origin',
  width: 'width',
  height: 'height',
  opacity: 'opacity',
};
const BOXED = { ...COMMON, fill: 'background', stroke: 'inner', stroke_width: 'inner' };

/** Property → writer, by kind of layer. */
const SHOWN: Record<Layer['kind'], Record<string, string>> = {
  group: COMMON,
  rectangle: {
    ...BOXED,
    radius_top_left: 'radius',
    radius_top_right: 'radius',
    radius_bottom_right: 'radius',
    radius_bottom_left: 'radius',
  },
  ellipse: BOXED,
  path: { ...COMMON, fill: 'fill', stroke: 'stroke', stroke_width: 'strokeWidth' },
  text: { ...COMMON, fill: 'color', font_size: 'fontSize' },
};

export interface Shown {
  element: HTMLElement | SVGElement;
  look: Look;
  writers: Record<string, string>;
}

export class Scene {
  readonly root = document.createElement('div');
  readonly shown = new Map<string, Shown>();

  constructor(layers: readonly Layer[], width: number, height: number, ground: string | null) {
    this.root.className = 'scene';
    this.root.style.width = `${width}px`;
    this.root.style.height = `${height}px`;
    this.root.style.background = ground ?? 'transparent';
    for (const layer of layers) this.root.append(this.build(layer));
  }

  zoom(factor: number): void {
    this.root.style.transform = `scale(${factor})`;
  }

  /** Shows a whole pose. */
  show(pose: Pose): void {
    for (const [id, shown] of this.shown) {
      const look = pose[id];
      if (!look) continue;
      Object.assign(shown.look, look);
      for (const writer of new Set(Object.values(shown.writers))) WRITERS[writer]!(shown.element.style, shown.look);
    }
  }

  /** Shows what changed of one layer; the values are in its look already. */
  write(shown: Shown, writers: Iterable<string>): void {
    for (const writer of writers) WRITERS[writer]!(shown.element.style, shown.look);
  }

  private build(layer: Layer): Element {
    const element = layer.kind === 'path' ? pathElement(layer) : document.createElement('div');
    element.setAttribute('data-layer', layer.id);
    if (layer.locked) element.setAttribute('data-locked', '');
    element.classList.add('layer', layer.kind);
    this.shown.set(layer.id, { element, look: {}, writers: SHOWN[layer.kind] });
    if (layer.kind === 'text') {
      element.textContent = layer.text;
      element.style.fontWeight = String(layer.font_weight ?? 400);
      element.style.textAlign = layer.text_align === 'centre' || !layer.text_align ? 'center' : layer.text_align;
    }
    if (layer.kind === 'group') for (const child of layer.layers ?? []) element.append(this.build(child));
    return element;
  }
}

function pathElement(layer: Extract<Layer, { kind: 'path' }>): SVGElement {
  const svg = document.createElementNS(SVG, 'svg');
  svg.setAttribute('viewBox', `0 0 ${layer.view_width} ${layer.view_height}`);
  svg.setAttribute('preserveAspectRatio', 'none');
  const path = document.createElementNS(SVG, 'path');
  path.setAttribute('d', layer.path);
  path.setAttribute('vector-effect', 'non-scaling-stroke');
  svg.style.strokeLinecap = layer.stroke_cap ?? 'round';
  svg.style.strokeLinejoin = layer.stroke_join ?? 'round';
  svg.append(path);
  return svg;
}
