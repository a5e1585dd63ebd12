import type { Cube, CubeDimension, CubePartial } from './cube';

interface WrittenCube {
  cells: number;
  dimensions: (Omit<CubeDimension, 'codes'> & { codes: number[] })[];
  partials: (Omit<CubePartial, 'values'> & { values: (number | null)[] })[];
}

/** A cube as JSON, for whoever has no reader of Arrow: lists in place of typed arrays, null where a figure is none. */
export function cubeToJson({ cells, dimensions, partials }: Cube): string {
  const written: WrittenCube = {
    cells,
    dimensions: dimensions.map((dimension) => ({ ...dimension, codes: [...dimension.codes] })),
    // What is no number is written as null.
    partials: partials.map((partial) => ({ ...partial, values: [...partial.values] })),
  };
  return JSON.stringify(written);
}

/** The cube of such a text. */
export function cubeFromJson(text: string): Cube {
  const { cells, dimensions, partials } = JSON.parse(text) as WrittenCube;
  return {
    cells,
    dimensions: dimensions.map((dimension) => ({ ...dimension, codes: Int32Array.from(dimension.codes) })),
    partials: partials.map((partial) => ({
      ...partial,
      values: Float64Array.from(partial.values, (value) => value ?? Number.NaN),
    })),
  };
}
