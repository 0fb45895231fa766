/* Long data: URLs, which answers tell once and name by a digest wherever they stand. What is the same is then the same
 * string, so that two looks with a film are compared at once. */

const HEADER = 'X-Parts';
const MARK = '\u001f';
/** The last ones are enough: what is not known is told again. */
const MOST = 60;
const parts = new Map<string, string>();

/** Said with every request. */
export const knownParts = (): Record<string, string> => ({ [HEADER]: [...parts.keys()].slice(-MOST).join() });

/** What a response says, with all that is named by a digest in its place. */
export async function answerIn(response: Response): Promise<unknown> {
  const said: unknown = await response.json();
  if (!response.headers.has(HEADER)) return said;
  const { parts: fresh, answer } = said as { parts: Record<string, string>; answer: unknown };
  for (const [digest, url] of Object.entries(fresh)) parts.set(digest, url);
  return restored(answer);
}

function restored(value: unknown): unknown {
  if (typeof value === 'string') return value.startsWith(MARK) ? (parts.get(value.slice(1)) ?? value) : value;
  if (typeof value === 'object' && value !== null) {
    const holder = value as Record<string, unknown>;
    for (const key of Object.keys(holder)) holder[key] = restored(holder[key]);
  }
  return value;
}
