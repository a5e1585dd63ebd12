import { unitsOfNumbers } from '../../levers/clock-units';
import { plainChart } from '../defaults';
import { boardSaying, type StarterMaker, usualMeasure } from './starter';

const says = 'The present one lights up by itself, and moves on.';

/** The hour, weekday or month that it is. */
export const now: StarterMaker = (context) => {
  const { dataset } = context;
  const field = dataset.fields.find((each) => each.type === 'integer' && unitsOfNumbers(each).length > 0);
  if (!field) return null;
  const [unit] = unitsOfNumbers(field);
  const question = `Where is the present ${unit}?`;
  const chart = plainChart(dataset, 'columns', { field: field.key }, usualMeasure(context), {
    order: { by: 'key', direction: 'ascending' },
  });
  return { id: 'now', question, says, board: boardSaying(context, question, chart, ['clock']) };
};
