/** Remembers the last result of `compute` for as long as every argument stays the very same. */
export function memoLast<A extends readonly unknown[], R>(compute: (...args: A) => R): (...args: A) => R {
  let lastArgs: A | undefined;
  let lastResult: R;
  return (...args) => {
    if (!lastArgs || args.some((arg, i) => !Object.is(arg, lastArgs![i]))) {
      lastResult = compute(...args);
      lastArgs = args;
    }
    return lastResult;
  };
}
