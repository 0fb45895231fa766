/* A piece as a custom element. */
import type { Event } from '../runtime/data';
import type { Settings, Values } from '../runtime/settings';
import { mount, NOTHING, type Handed, type Mounted } from './mount';
import { setting } from './players';

export interface Given extends Handed {
  /** What it is called for those who do not see it. */
  name: string;
  /** `@font-face` rules: they hold for a whole document, and are added once. */
  fonts: string;
}

const SIZED = ':host { display: inline-block; position: relative; touch-action: manipulation; user-select: none; }';
// Where pages are made without a browser there is no element to be.
const Base = ((globalThis as { HTMLElement?: unknown }).HTMLElement ?? Object) as typeof HTMLElement;
// Names of its own are free for parameters.
const GIVEN = Symbol('given');
const withFonts = new Set<string>();

/** Nothing of the piece is there before an element is in a document. */
abstract class PieceElement extends Base {
  abstract readonly [GIVEN]: Given;
  #mounted: Mounted | null = null;
  /** Its own change of the attribute. */
  #reflects = false;

  connectedCallback(): void {
    const given = this[GIVEN];
    addFonts(given.fonts);
    this.role ??= 'group';
    this.ariaLabel ??= given.name;
    const wanted = this.getAttribute('state');
    const root = this.shadowRoot ?? this.attachShadow({ mode: 'open' });
    const [style, into] = [document.createElement('style'), document.createElement('div')];
    style.textContent = SIZED;
    Object.assign(into.style, { position: 'relative', width: `${given.piece.width}px`, height: `${given.piece.height}px` }); // prettier-ignore
    root.replaceChildren(style, into);
    let begins = true;
    this.#mounted = mount(into, given, (detail) => {
      // Where it begins is no change.
      if (begins) return;
      this.#reflect(detail.to);
      this.dispatchEvent(new CustomEvent('statechange', { detail, bubbles: true }));
    }, this.#written()); // prettier-ignore
    if (wanted !== null && wanted !== this.#mounted.methods.state) this.#mounted.methods.go(wanted);
    begins = false;
    if (this.paused) this.#mounted.methods.pause();
  }

  disconnectedCallback(): void {
    this.#mounted?.stop();
    this.#mounted = null;
  }

  attributeChangedCallback(name: string, _: string | null, value: string | null): void {
    if (!this.#mounted || this.#reflects) return;
    if (name === 'paused') return value === null ? this.play() : this.pause();
    if (name !== 'state') return this.#mounted.methods.set({ ...this.#nothing(), ...this.#written() });
    if (value !== null && value !== this.state) this.go(value);
  }

  /** Its own values, as its attributes say; what cannot be is told, and left as the piece has it. */
  #written(): Values {
    const { settings = NOTHING } = this[GIVEN];
    const found: Record<string, string | number> = {};
    for (const { id, attribute } of namesOf(settings)) {
      const value = this.getAttribute(attribute);
      try {
        if (value !== null) found[id] = setting.read(settings, id, value);
      } catch (fault) {
        console.warn(`<${this.localName} ${attribute}>: ${(fault as Error).message}`);
      }
    }
    return found;
  }

  #nothing(): Record<string, null> {
    return Object.fromEntries(namesOf(this[GIVEN].settings ?? NOTHING).map(({ id }) => [id, null]));
  }

  get state(): string {
    return this.#mounted?.methods.state ?? this.getAttribute('state') ?? '';
  }

  set state(state: string) {
    this.setAttribute('state', state);
  }

  get paused(): boolean {
    return this.hasAttribute('paused');
  }

  set paused(paused: boolean) {
    this.toggleAttribute('paused', paused);
  }

  get events(): readonly Event[] {
    return this.#mounted?.methods.events ?? [];
  }

  go(state: string): void {
    this.#mounted?.methods.go(state);
  }

  play(): void {
    this.#mounted?.methods.play();
  }

  pause(): void {
    this.#mounted?.methods.pause();
  }

  seek(ms: number): void {
    this.#mounted?.methods.seek(ms);
  }

  #reflect(state: string): void {
    this.#reflects = true;
    this.setAttribute('state', state);
    this.#reflects = false;
  }
}

/** The class of the element of a piece. */
export function pieceElement(of: Given): typeof HTMLElement {
  const names = namesOf(of.settings ?? NOTHING);
  class Own extends PieceElement {
    static readonly observedAttributes = ['state', 'paused', ...names.map(({ attribute }) => attribute)];
    readonly [GIVEN] = of;
  }
  for (const { attribute, property } of names) {
    Object.defineProperty(Own.prototype, property, {
      get(this: Own) {
        return this.getAttribute(attribute);
      },
      set(this: Own, value: string | number | null | undefined) {
        if (value === null || value === undefined) this.removeAttribute(attribute);
        else this.setAttribute(attribute, String(value));
      },
      configurable: true,
      enumerable: true,
    });
  }
  return Own;
}

const namesOf = ({ choices, given }: Settings) => [...choices, ...given];

function addFonts(rules: string): void {
  if (!rules || withFonts.has(rules)) return;
  withFonts.add(rules);
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(rules);
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
}
