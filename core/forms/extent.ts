/** The lowest and the highest of some figures, zero always among them; NaN is passed over. */
export const extentOf = (values: ArrayLike<number>): [number, number] => {
  let low = 0;
  let high = 0;
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return [low, high];
};
