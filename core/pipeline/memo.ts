function isSame<Inputs extends object>(inputs: Inputs, known: Inputs | undefined): boolean {
  if (!known) return false;
  const names = Object.keys(inputs) as (keyof Inputs)[];
  return (
    names.length === Object.keys(known).length && names.every((name) => Object.is(inputs[name], known[name]))
  );
}

/** Remembers the last result of `compute` for as long as every input stays the very same. */
export function memoLast<Inputs extends object, R>(compute: (inputs: Inputs) => R): (inputs: Inputs) => R {
  let last: Inputs | undefined;
  let result: R;
  return (inputs) => {
    if (!isSame(inputs, last)) {
      result = compute(inputs);
      last = inputs;
    }
    return result;
  };
}

/** The same for work that comes in steps; what is broken off is not remembered. */
export function memoSteps<Inputs extends object, R>(
  compute: (inputs: Inputs) => Generator<void, R>,
): (inputs: Inputs) => Generator<void, R> {
  let last: Inputs | undefined;
  let result: R;
  return function* (inputs) {
    if (!isSame(inputs, last)) {
      result = yield* compute(inputs);
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
