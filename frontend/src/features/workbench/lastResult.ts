/** The function, keeping its last result for as long as it is asked with the same arguments. */
export function lastResult<A extends readonly unknown[], R>(compute: (...args: A) => R): (...args: A) => R {
  let known: { args: A; result: R } | null = null;
  return (...args) => {
    if (!known || args.some((arg, i) => arg !== known!.args[i])) known = { args, result: compute(...args) };
    return known.result;
  };
}
