/** Remembers the last result of `compute` for as long as every input stays the very same. */
export function memoLast<Inputs extends object, R>(compute: (inputs: Inputs) => R): (inputs: Inputs) => R {
  let last: Inputs | undefined;
  let result: R;
  return (inputs) => {
    const known = last;
    const names = Object.keys(inputs) as (keyof Inputs)[];
    if (
      !known ||
      names.length !== Object.keys(known).length ||
      names.some((name) => !Object.is(inputs[name], known[name]))
    ) {
      result = compute(inputs);
      last = inputs;
    }
    return result;
  };
}

/** The same, but for one input that is new each time and says nothing that the others do not. */
export function memoBut<Inputs extends object, Name extends keyof Inputs, R>(
  left: Name,
  compute: (inputs: Inputs) => R,
): (inputs: Inputs) => R {
  let now: Inputs;
  const remembered = memoLast((_told: Omit<Inputs, Name>) => compute(now));
  return (inputs) => {
    now = inputs;
    const { [left]: _left, ...told } = inputs;
    return remembered(told);
  };
}
