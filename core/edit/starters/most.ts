import { tell } from '../../messages/desk';
import { english } from '../../messages/locale';
import { plainChart } from '../defaults';
import { boardSaying, type StarterMaker, usualMeasure } from './starter';

const says = () => tell('starter.most.slideACountThe');

/** The largest of a few categories, as many as a count says. */
export const most: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [category] = fields.few.filter(({ profile }) => (profile?.distinct ?? 0) >= 3);
  if (!category) return null;
  const measure = usualMeasure(context);
  const noun = english.inSentence(category.name);
  const [of] = fields.measures;
  const question =
    measure.aggregate === 'count' || !of
      ? tell('starter.most.whichHasTheMost', { noun })
      : measure.aggregate === 'average'
        ? tell('starter.most.whichHasTheHighest', { noun, of: english.inSentence(of.name) })
        : tell('starter.most.whichHasTheMost2', { noun, of: english.inSentence(of.name) });
  const chart = plainChart(dataset, 'bars', { field: category.key }, measure);
  return {
    id: 'most',
    question,
    says: says(),
    board: boardSaying(context, question, chart, ['top', 'light']),
  };
};
