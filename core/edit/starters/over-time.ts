import { tell } from '../../messages/desk';
import { plainChart } from '../defaults';
import { boardSaying, type StarterMaker, usualMeasure } from './starter';

/** So many days make a line that can still be read. */
const mostDays = 3000;

const says = () => tell('starter.overTime.dragTwoLimitsWhat');

/** A line over time, and two limits to move. */
export const overTime: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [date] = fields.date;
  if (!date) return null;
  const [of] = fields.measures;
  const days = date.profile?.distinct ?? 0;
  const span = (Date.parse(String(date.profile?.max)) - Date.parse(String(date.profile?.min))) / 86_400_000;
  const grain = days <= mostDays && days > span / 12 ? 'day' : days > span / 90 ? 'month' : 'year';
  const question = tell('starter.overTime.byWithLimitsTo', {
    what: of ? of.name : tell('starter.rows'),
    grain,
  });
  const measure = usualMeasure(context);
  const chart = plainChart(dataset, 'line', { field: date.key, grain }, measure);
  return {
    id: 'over-time',
    question,
    says: says(),
    // Limits in figures need bounds: until they are known the limits are shares.
    board: boardSaying(context, question, chart, ['shares']),
    withRange: (range) => boardSaying(context, question, chart, ['limits'], { range }),
  };
};
