import { plainChart } from '../defaults';
import { boardSaying, lastYear, leverOfKind, type StarterMaker, usualMeasure } from './starter';

const says = 'Pick years: their months light up.';

/** Months as columns, those of one year lit. */
export const oneYear: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [date] = fields.date;
  const [min, max] = [String(date?.profile?.min ?? ''), String(date?.profile?.max ?? '')];
  // In one year alone there is nothing to choose.
  if (!date || min.slice(0, 4) === max.slice(0, 4)) return null;
  const [of] = fields.measures;
  const question = `${of ? of.name : 'Rows'} by month, one year at a time`;
  const chart = plainChart(dataset, 'columns', { field: date.key, grain: 'month' }, usualMeasure(context));
  const board = boardSaying(context, question, chart, ['light years'], {
    finish: (draft) => {
      const lever = leverOfKind(draft, 'pick');
      if (lever) lever.start = [lastYear(max.slice(0, 10))];
    },
  });
  return { id: 'one-year', question, says, board };
};
