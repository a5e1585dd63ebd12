import { tell } from '../../messages/desk';
import { english } from '../../messages/locale';
import { plainChart } from '../defaults';
import { measureOf } from '../field-roles';
import { boardSaying, leverOfKind, type StarterMaker } from './starter';

const says = () => tell('starter.twoMeasures.pickSomeAndSee');

/** Two measures of each category, one against the other. */
export const twoMeasures: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [first, second] = fields.measures;
  const [category] = [...fields.few, ...fields.many].filter(({ profile }) => profile!.distinct >= 8);
  if (!first || !second || !category) return null;
  const question = tell('starter.twoMeasures.against', {
    first: first.name,
    second: english.inSentence(second.name),
  });
  const chart = plainChart(dataset, 'dots', { field: category.key }, measureOf(first, dataset.rows), {
    against: measureOf(second, dataset.rows),
    // What lies close together is seen apart: dots need no zero.
    axis: { from: 'data' },
  });
  const { min } = category.profile!;
  const board = boardSaying(context, question, chart, ['light'], {
    finish: (draft) => {
      const lever = leverOfKind(draft, 'pick');
      if (lever && typeof min === 'string') lever.start = [min];
    },
  });
  return { id: 'two-measures', question, says: says(), board };
};
