/* Films in the page, in step with their playheads to the frame where the browser can decode them. */
import type { Projector } from './projector';

/** What shows one film on any canvas. */
export type Film = (canvas: HTMLCanvasElement) => Projector;
type Open = (data: Uint8Array<ArrayBuffer>) => Promise<Film>;
let open: (() => Promise<Open>) | null = null;

/** Where that which reads the files comes from; asked once there is a film. */
export const openFilmsBy = (by: () => Promise<Open>): void => void (open = by);

/** null: what is in it, this browser does not decode. */
const films = new Map<string, Promise<Film> | null>();
const MOST_FILMS = 8;

/** Whether the frames of a film can be shown one by one, as far as is known. */
export function isDecodable(source: string): boolean {
  return open !== null && typeof VideoDecoder !== 'undefined' && films.get(source) !== null;
}

function filmOf(source: string): Promise<Film> {
  const before = films.get(source);
  const film = before ?? opened(source);
  films.delete(source);
  films.set(source, film);
  if (films.size > MOST_FILMS) films.delete(films.keys().next().value as string);
  return film;
}

async function opened(source: string): Promise<Film> {
  const bytes = Uint8Array.from(atob(source.slice(source.indexOf(',') + 1)), (c) => c.charCodeAt(0));
  const by = await open?.();
  if (!by) throw new Error('Nothing reads films here.');
  return by(bytes);
}

interface Showing {
  t: number;
  isSaid: boolean;
  projector: Projector | null;
}

const showings = new WeakMap<HTMLCanvasElement, Showing>();
/** What nobody shows any more gives its frames back. */
const gone = new FinalizationRegistry<Projector>((projector) => projector.close());

/** What is said several times before a frame is painted is where it stands first, and what moves it after that. */
function showSoon(showing: Showing, t: number): void {
  showing.t = t;
  if (showing.isSaid) return;
  showing.isSaid = true;
  queueMicrotask(() => {
    showing.isSaid = false;
    showing.projector?.show(showing.t);
  });
}

/** Another source is shown on the canvas. */
export function endFilm(canvas: HTMLCanvasElement): void {
  showings.get(canvas)?.projector?.close();
  showings.delete(canvas);
}

/** Draws a film as it is at `t` ms; `cannot` is called where that turns out to be beyond this browser. */
export function showFilm(canvas: HTMLCanvasElement, source: string, t: number, cannot: () => void): void {
  const known = showings.get(canvas);
  if (known) return showSoon(known, t);
  const showing: Showing = { t, isSaid: false, projector: null };
  showings.set(canvas, showing);
  filmOf(source).then(
    (film) => {
      if (showings.get(canvas) !== showing) return;
      showing.projector = film(canvas);
      gone.register(canvas, showing.projector);
      showing.projector.show(showing.t);
    },
    () => {
      films.set(source, null);
      cannot();
    },
  );
}
