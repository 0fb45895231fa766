/** The function, keeping its last result for as long as it is asked with the same arguments. */
export function lastResult<A extends readonly unknown[], R>(compute: (...args: A) => R): (...args: A) => R {
  let before: { args: A; result: R } | null = null;
  return (...args) => {
    if (!before || args.some((arg, i) => arg !== before?.args[i])) before = { args, result: compute(...args) };
    return before.result;
  };
}
