/* A piece as a custom element. */
import './players';
import type { Event } from '../runtime/data';
import { mount, type Handed, type Mounted } from './mount';

export interface Given extends Handed {
  /** What it is called for those who do not see it. */
  name: string;
  /** `@font-face` rules: they hold for a whole document, and are added once. */
  fonts: string;
}

const SIZED = ':host { display: inline-block; position: relative; touch-action: manipulation; user-select: none; }';
// Where pages are made without a browser there is no element to be.
const Base = ((globalThis as { HTMLElement?: unknown }).HTMLElement ?? Object) as typeof HTMLElement;
const withFonts = new Set<string>();

/** Nothing of the piece is there before an element is in a document. */
abstract class PieceElement extends Base {
  protected abstract readonly given: Given;
  static readonly observedAttributes = ['state', 'paused'];
  private mounted: Mounted | null = null;
  /** Its own change of the attribute. */
  private reflects = false;

  connectedCallback(): void {
    const { given } = this;
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
    this.mounted = mount(into, given, (detail) => {
      // Where it begins is no change.
      if (begins) return;
      this.reflect(detail.to);
      this.dispatchEvent(new CustomEvent('statechange', { detail, bubbles: true }));
    });
    if (wanted !== null && wanted !== this.mounted.methods.state) this.mounted.methods.go(wanted);
    begins = false;
    if (this.paused) this.mounted.methods.pause();
  }

  disconnectedCallback(): void {
    this.mounted?.stop();
    this.mounted = null;
  }

  attributeChangedCallback(name: string, _: string | null, value: string | null): void {
    if (!this.mounted || this.reflects) return;
    if (name === 'paused') return value === null ? this.play() : this.pause();
    if (value !== null && value !== this.state) this.go(value);
  }

  get state(): string {
    return this.mounted?.methods.state ?? this.getAttribute('state') ?? '';
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
    return this.mounted?.methods.events ?? [];
  }

  go(state: string): void {
    this.mounted?.methods.go(state);
  }

  play(): void {
    this.mounted?.methods.play();
  }

  pause(): void {
    this.mounted?.methods.pause();
  }

  seek(ms: number): void {
    this.mounted?.methods.seek(ms);
  }

  private reflect(state: string): void {
    this.reflects = true;
    this.setAttribute('state', state);
    this.reflects = false;
  }
}

/** The class of the element of a piece. */
export function pieceElement(of: Given): typeof HTMLElement {
  return class extends PieceElement {
    protected readonly given = of;
  };
}

function addFonts(rules: string): void {
  if (!rules || withFonts.has(rules)) return;
  withFonts.add(rules);
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(rules);
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
}
