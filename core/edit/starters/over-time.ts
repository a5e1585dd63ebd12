import { plainChart } from '../defaults';
import { boardSaying, type StarterMaker, usualMeasure } from './starter';

/** So many days make a line that can still be read. */
const mostDays = 3000;

const says = 'Drag two limits: what lies above and below lights up.';

/** A line over time, and two limits to move. */
export const overTime: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [date] = fields.date;
  if (!date) return null;
  const [of] = fields.measures;
  const days = date.profile?.distinct ?? 0;
  const span = (Date.parse(String(date.profile?.max)) - Date.parse(String(date.profile?.min))) / 86_400_000;
  const grain = days <= mostDays && days > span / 12 ? 'day' : days > span / 90 ? 'month' : 'year';
  const question = `${of ? of.name : 'Rows'} by ${grain}, with limits to move`;
  const measure = usualMeasure(context);
  const chart = plainChart(dataset, 'line', { field: date.key, grain }, measure);
  return {
    id: 'over-time',
    question,
    says,
    // Limits in figures need bounds: until they are known the limits are shares.
    board: boardSaying(context, question, chart, ['shares']),
    withRange: (range) => boardSaying(context, question, chart, ['limits'], { range }),
  };
};
