/* What pointers and keys do to a piece, as events for the stage. Touch, pen and mouse alike. */
import type { Event as Cued, Heard, Tables, Transition } from './data';
import { around } from './hearing';

/** A finger that is moved farther than this, in px of the screen, between down and up does not tap. */
const SLOP_PX = 10;
const TOUCHES = ['tap', 'double-tap', 'press', 'release', 'long-press'];
/** What can be reached by the keyboard, since something is heard of it. */
const REACHED = [...TOUCHES, 'focus', 'blur', 'key'];

interface Down {
  readonly layer: string | null;
  readonly x: number;
  readonly y: number;
  readonly timer: ReturnType<typeof setTimeout>;
  long: boolean;
}

export interface Listening {
  /** Says what somebody does now; gives what became of it. */
  hear(cue: string, layer: string | null, key?: string): Heard | null;
  /** Whether a layer, or anything around it, is hidden now. */
  isSeen(layer: string): boolean;
  /** How far the content is scrolled, px; and that somebody scrolls it. */
  scrolled(): number;
  scroll(y: number): void;
  /** How many times as fast as the clock on the wall time goes here. */
  rate(): number;
}

/** Listens on the element in which a piece is drawn, its layers marked by `data-layer`. `stop` ends it. */
export class Gestures {
  private readonly down = new Map<number, Down>();
  private inside: (string | null)[] = [];
  private readonly ending = new AbortController();
  private readonly order: ReadonlyMap<string, number>;
  private readonly views: IntersectionObserver[] = [];
  /** Those of the piece, and of all that lives in it. */
  private transitions: readonly Transition[];

  constructor(
    private readonly root: HTMLElement,
    private tables: Tables,
    private readonly to: Listening,
  ) {
    this.transitions = allOf(tables);
    this.order = new Map(tables.layers.map(({ id }, index) => [id, index]));
    this.nameWhatIsReached();
    const on = <K extends keyof HTMLElementEventMap>(kind: K, listener: (event: HTMLElementEventMap[K]) => void) =>
      root.addEventListener(kind, listener, { signal: this.ending.signal });
    on('pointerdown', (event) => this.press(event));
    on('pointerup', (event) => this.release(event));
    on('pointercancel', (event) => this.cancel(event));
    on('pointermove', (event) => this.point(event));
    on('pointerover', (event) => this.point(event));
    on('pointerleave', () => this.enter([]));
    on('keydown', (event) => this.key(event));
    // Scrolling is told by what scrolls, and goes no further up.
    root.addEventListener('scroll', (event) => this.scroll(event), { signal: this.ending.signal, capture: true });
    on('focusin', (event) => this.focus('focus', event));
    on('focusout', (event) => this.focus('blur', event));
    this.watchViews();
  }

  /** Goes on with other values. */
  use(tables: Tables): void {
    this.tables = tables;
    this.transitions = allOf(tables);
  }

  stop(): void {
    this.ending.abort();
    for (const view of this.views) view.disconnect();
    for (const { timer } of this.down.values()) clearTimeout(timer);
  }

  private heeds(cues: readonly string[], layer?: string | null): boolean {
    return this.transitions.some((t) => cues.includes(t.cue) && (layer === undefined || t.layer === layer));
  }

  private element(layer: string): HTMLElement | SVGElement | null {
    // Before it in the page are those of looks that are left.
    const named = CSS.escape(layer);
    const found = this.root.querySelectorAll<HTMLElement | SVGElement>(
      `[data-layer="${named}"], [data-section="${named}"]`,
    );
    return found[found.length - 1] ?? null;
  }

  /** Names and roles for those who do not see it, and an order for the keyboard: that of the layers. */
  private nameWhatIsReached(): void {
    const named = this.tables.layers.filter(({ id }) => this.heeds(REACHED, id));
    for (const { id, name } of named) this.button(this.element(id), name);
    if (!named.length && this.heeds(REACHED, null)) this.button(this.root, this.tables.name);
  }

  private button(element: HTMLElement | SVGElement | null, name: string): void {
    element?.setAttribute('role', 'button');
    element?.setAttribute('tabindex', '0');
    element?.setAttribute('aria-label', name);
  }

  /** The topmost layer at a place of the screen that is seen and touched; null for the piece itself. */
  private hit(x: number, y: number): string | null {
    const scope = this.root.getRootNode() as Document | ShadowRoot;
    const under = scope
      .elementsFromPoint(x, y)
      .filter((element) => this.root.contains(element))
      .flatMap((element) => element.closest('[data-layer]')?.getAttribute('data-layer') ?? []);
    const near = this.tables.layers.filter(({ id, margin }) => margin > 0 && this.isNear(id, margin, x, y));
    const found = new Set([...under, ...near.map(({ id }) => id)]);
    const touched = this.tables.layers.filter(({ id, through }) => found.has(id) && !through && this.to.isSeen(id));
    return touched.reduce<string | null>(
      (top, { id }) => (top === null || (this.order.get(id) ?? 0) > (this.order.get(top) ?? 0) ? id : top),
      null,
    );
  }

  /** Whether a place is so near to a layer that it is touched there too. */
  private isNear(layer: string, margin: number, x: number, y: number): boolean {
    const box = this.element(layer)?.getBoundingClientRect();
    const far = margin * (this.root.getBoundingClientRect().width / (this.root.offsetWidth || 1));
    return !!box && x >= box.left - far && x <= box.right + far && y >= box.top - far && y <= box.bottom + far;
  }

  private press(event: PointerEvent): void {
    if (event.button > 0) return;
    const layer = this.hit(event.clientX, event.clientY);
    // Up is heard wherever it happens.
    if (event.isTrusted) this.root.setPointerCapture(event.pointerId);
    const timer = setTimeout(() => this.hold(event.pointerId), this.tables.long_press_ms / this.to.rate());
    this.down.set(event.pointerId, { layer, x: event.clientX, y: event.clientY, timer, long: false });
    this.point(event);
    this.hearIfWanted('press', layer);
  }

  private hold(pointer: number): void {
    const down = this.down.get(pointer);
    if (down && this.heeds(['long-press'])) down.long = this.to.hear('long-press', down.layer)?.reason === 'heeded';
  }

  private release(event: PointerEvent): void {
    const down = this.cancel(event);
    if (!down) return;
    const { clientX: x, clientY: y } = event;
    const isStill = Math.hypot(x - down.x, y - down.y) <= SLOP_PX;
    if (!down.long && (isStill || this.hit(x, y) === down.layer)) this.to.hear('tap', down.layer);
    // A finger that is lifted points at nothing.
    if (event.pointerType === 'touch') this.enter([]);
  }

  private cancel(event: PointerEvent): Down | null {
    const down = this.down.get(event.pointerId);
    if (!down) return null;
    clearTimeout(down.timer);
    this.down.delete(event.pointerId);
    this.hearIfWanted('release', down.layer);
    return down;
  }

  private point(event: PointerEvent): void {
    if (!this.heeds(['over', 'out'])) return;
    const box = this.root.getBoundingClientRect();
    const { clientX: x, clientY: y } = event;
    const isInside = x >= box.left && x < box.right && y >= box.top && y < box.bottom;
    const layer = this.hit(x, y);
    if (layer === null && !isInside) return this.enter([]);
    this.enter([...(layer === null ? [] : around(this.tables, layer)), null]);
  }

  /** The pointer is over these layers now, from the inside out, and over the piece itself. */
  private enter(now: (string | null)[]): void {
    const before = this.inside;
    this.inside = now;
    for (const layer of before) {
      if (!now.includes(layer) && this.heeds(['over', 'out'], layer)) this.to.hear('out', layer);
    }
    for (const layer of [...now].reverse()) {
      if (!before.includes(layer) && this.heeds(['over', 'out'], layer)) this.to.hear('over', layer);
    }
  }

  /** A key held down is one press. Enter and Space are a tap, unless something waits for that very key. */
  private key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const named = this.transitions.some((t) => t.key === event.key);
    const taps = (event.key === 'Enter' || event.key === ' ') && this.heeds(TOUCHES);
    if (!named && !taps) return;
    event.preventDefault();
    if (event.repeat) return;
    const layer = layerOf(event.target);
    if (named) this.to.hear('key', layer, event.key);
    else {
      this.hearIfWanted('press', layer);
      this.hearIfWanted('release', layer);
      this.to.hear('tap', layer);
    }
  }

  /** Every tap has a press and a release in it: they are told only where the piece knows them. */
  private hearIfWanted(cue: 'press' | 'release', layer: string | null): void {
    if (this.heeds([cue])) this.to.hear(cue, layer);
  }

  private scroll({ target }: globalThis.Event): void {
    if (!(target instanceof HTMLElement) || !this.tables.sections.length) return;
    // What was shown so by a replay is nobody's doing.
    if (Math.abs(target.scrollTop - this.to.scrolled()) >= 1) this.to.scroll(target.scrollTop);
  }

  private focus(cue: 'focus' | 'blur', event: FocusEvent): void {
    const layer = layerOf(event.target);
    if (this.heeds(['focus', 'blur'], layer)) this.to.hear(cue, layer);
  }

  /** What comes into view, and leaves it again, by the share that is wanted. */
  private watchViews(): void {
    const watched = this.transitions.filter(({ cue }) => cue === 'in-view' || cue === 'out-of-view');
    for (const layer of new Set(watched.map((t) => t.layer))) {
      const element = layer === null ? this.root : this.element(layer);
      const share = watched.find((t) => t.layer === layer)?.share ?? 0.5;
      if (element) this.watch(element, layer, share);
    }
  }

  private watch(element: Element, layer: string | null, share: number): void {
    let isIn = false;
    const observer = new IntersectionObserver(
      (entries) => {
        for (const { intersectionRatio } of entries) {
          const now = intersectionRatio >= share;
          if (now !== isIn) this.to.hear(now ? 'in-view' : 'out-of-view', layer);
          isIn = now;
        }
      },
      { threshold: share },
    );
    observer.observe(element);
    this.views.push(observer);
  }
}

const allOf = ({ transitions, voices }: Tables): Transition[] => [
  ...transitions,
  ...voices.flatMap(({ tables }) => allOf(tables)),
];

const layerOf = (target: EventTarget | null): string | null =>
  target instanceof Element ? (target.closest('[data-layer]')?.getAttribute('data-layer') ?? null) : null;

/** An event as the stage hears it. */
export const cued = (t_ms: number, cue: string, layer: string | null, key?: string): Cued => ({
  t_ms,
  cue,
  layer,
  ...(key === undefined ? {} : { key }),
});
