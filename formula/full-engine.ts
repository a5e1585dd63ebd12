import { compileAggregate } from './aggregate-sql';
import { aggregateFunctions, orderedAggregates } from './aggregates';
import { compile } from './compile';
import type { FormulaEngine } from './engine';
import { parseFormula } from './parse';
import { readFigure } from './read-figure';
import { scalarFunctions } from './scalars';
import { windowFunctions } from './windows';

/** Functions that are written in a way of their own. */
const special = [
  'COALESCE(a, b, ..)',
  'NULLIF(a, b)',
  'GREATEST(a, b, ..)',
  'LEAST(a, b, ..)',
  'EXTRACT(part FROM date)',
  "DATE_TRUNC('month', date)",
].map((signature) => ({ name: signature.slice(0, signature.indexOf('(')), signature }));

export const fullEngine: FormulaEngine = {
  parse: parseFormula,
  compile,
  figure: readFigure,
  aggregate: compileAggregate,
  functions: [
    ...special,
    ...scalarFunctions,
    ...aggregateFunctions,
    ...orderedAggregates,
    ...windowFunctions,
  ],
};
