/* Lottie files in the page: played whole by a library, which is loaded only then, and shown at whole frames. */
import type { AnimationItem, LottiePlayer } from 'lottie-web';
import type { Look } from '../../api/contract';
import { known } from '../../shared/known';

export const IS_LOTTIE = 'data:application/json;';

type Load = () => Promise<LottiePlayer>;
let load: Load | null = null;

/** Where the library comes from; asked once, when there is something to play. */
export const loadLottieBy = (by: Load): void => void (load = by);

interface File {
  w: number;
  h: number;
  fr: number;
  ip: number;
  op: number;
}

class Drawing {
  private item: AnimationItem | null = null;
  private t = 0;
  private frame = -1;
  readonly file: File;

  constructor(
    readonly source: string,
    private readonly into: HTMLElement,
  ) {
    const bytes = Uint8Array.from(atob(source.slice(source.indexOf(',') + 1)), (c) => c.charCodeAt(0));
    this.file = JSON.parse(new TextDecoder().decode(bytes)) as File;
    this.begin().catch((error: unknown) => console.warn('A Lottie file cannot be played:', error));
  }

  private async begin(): Promise<void> {
    const player = await load?.();
    if (!player) return;
    this.item = player.loadAnimation({
      container: this.into,
      renderer: 'svg',
      loop: false,
      autoplay: false,
      animationData: this.file,
      rendererSettings: { preserveAspectRatio: 'none' },
    });
    this.show(this.t);
  }

  /** The frame that is shown `t` ms from the beginning: whole ones, as they are drawn elsewhere. */
  show(t: number): void {
    this.t = t;
    const { fr, ip, op } = this.file;
    const frame = Math.min(Math.max(Math.floor((t * fr) / 1000 + 1e-6), 0), Math.ceil(op - ip) - 1);
    if (!this.item || frame === this.frame) return;
    this.item.goToAndStop(frame, true);
    this.frame = frame;
    this.into.dataset.frame = `${frame}`;
  }

  end(): void {
    this.item?.destroy();
  }
}

const drawings = new WeakMap<Element, Drawing>();

/** Shows a Lottie file in an element of a medium, at its playhead. */
export function showLottie(into: HTMLElement, source: string, look: Look): void {
  let drawing = drawings.get(into);
  if (drawing?.source !== source) {
    drawing?.end();
    into.replaceChildren();
    drawing = new Drawing(source, into);
    drawings.set(into, drawing);
  }
  fit(into.style, known(drawing).file, look);
  known(drawing).show(Number(look.playhead));
}

/** At its own size, scaled and moved as pictures are. */
function fit(style: CSSStyleDeclaration, { w, h }: File, look: Look): void {
  const [width, height] = [Number(look.width), Number(look.height)];
  let [across, down] = [width / w, height / h];
  if (look.fit !== 'fill') across = down = look.fit === 'cover' ? Math.max(across, down) : Math.min(across, down);
  const [left, top] = [(width - w * across) * Number(look.focus_x), (height - h * down) * Number(look.focus_y)];
  style.width = `${w}px`;
  style.height = `${h}px`;
  style.transform = `translate(${left}px,${top}px) scale(${across},${down})`;
}
