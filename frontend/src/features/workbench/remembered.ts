/* What was looked at, and how, through a reload of the page. */

const keyFor = (what: string, piece: string) => `keen-ripple ${what} ${piece}`;

export const remember = (what: string, piece: string, value: unknown): void =>
  sessionStorage.setItem(keyFor(what, piece), JSON.stringify(value));

/** What was remembered when the page was reloaded; null where the piece is opened in any other way. */
export function remembered<T>(what: string, piece: string): T | null {
  const [way] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
  if (way?.type !== 'reload' || !new URL(way.name).pathname.split('/').includes(piece)) return null;
  return JSON.parse(sessionStorage.getItem(keyFor(what, piece)) ?? 'null') as T | null;
}
