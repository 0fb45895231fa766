/* What is known to be there, and says so where it is not. */

/** The value; a bug if there is none, which the view's fault boundary tells. */
export function known<T>(value: T | null | undefined): T {
  if (value === null || value === undefined) throw new Error('What was to be used here is not there.');
  return value;
}

export const firstOf = <T>(list: readonly T[]): T => known(list[0]);
export const lastOf = <T>(list: readonly T[]): T => known(list.at(-1));
