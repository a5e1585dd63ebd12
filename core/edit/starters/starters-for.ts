import type { DatasetInfo } from '../../data/dataset';
import { fieldsByRole } from '../field-roles';
import { againstOne } from './against-one';
import { chosenInTitle } from './chosen-in-title';
import { firstFew } from './first-few';
import { most } from './most';
import { now } from './now';
import { oneAmong } from './one-among';
import { oneYear } from './one-year';
import { overTime } from './over-time';
import type { Starter, StarterMaker } from './starter';
import { twoMeasures } from './two-measures';

/** More would be a catalogue to read. */
const mostStarters = 8;

/** What is asked most often first. */
const makers: readonly StarterMaker[] = [
  most,
  overTime,
  oneYear,
  chosenInTitle,
  oneAmong,
  firstFew,
  againstOne,
  now,
  twoMeasures,
];

/** Boards that answer a question with the fields that a dataset has, each ready to be operated. */
export function startersFor(dataset: DatasetInfo): Starter[] {
  const context = { dataset, fields: fieldsByRole(dataset) };
  return makers
    .map((make) => make(context))
    .filter((starter) => starter !== null)
    .slice(0, mostStarters);
}
