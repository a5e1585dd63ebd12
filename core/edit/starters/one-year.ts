import { tell } from '../../messages/desk';
import { plainChart } from '../defaults';
import { boardSaying, lastYear, leverOfKind, type StarterMaker, usualMeasure } from './starter';

const says = () => tell('starter.oneYear.pickYearsTheirMonths');

/** Months as columns, those of one year lit. */
export const oneYear: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [date] = fields.date;
  const [min, max] = [String(date?.profile?.min ?? ''), String(date?.profile?.max ?? '')];
  // In one year alone there is nothing to choose.
  if (!date || min.slice(0, 4) === max.slice(0, 4)) return null;
  const [of] = fields.measures;
  const question = tell('starter.oneYear.byMonthOneYear', { what: of ? of.name : tell('starter.rows') });
  const chart = plainChart(dataset, 'columns', { field: date.key, grain: 'month' }, usualMeasure(context));
  const board = boardSaying(context, question, chart, ['light years'], {
    finish: (draft) => {
      const lever = leverOfKind(draft, 'pick');
      if (lever) lever.start = [lastYear(max.slice(0, 10))];
    },
  });
  return { id: 'one-year', question, says: says(), board };
};
