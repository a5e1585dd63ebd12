import { unitsOfNumbers } from '../../levers/clock-units';
import { tell } from '../../messages/desk';
import { plainChart } from '../defaults';
import { boardSaying, type StarterMaker, usualMeasure } from './starter';

const says = () => tell('starter.now.thePresentOneLights');

/** The hour, weekday or month that it is. */
export const now: StarterMaker = (context) => {
  const { dataset } = context;
  const field = dataset.fields.find((each) => each.type === 'integer' && unitsOfNumbers(each).length > 0);
  if (!field) return null;
  const [unit] = unitsOfNumbers(field);
  const question = tell('starter.now.whereIsThePresent', { unit: unit! });
  const chart = plainChart(dataset, 'columns', { field: field.key }, usualMeasure(context), {
    order: { by: 'key', direction: 'ascending' },
  });
  return { id: 'now', question, says: says(), board: boardSaying(context, question, chart, ['clock']) };
};
