import { tell } from '../../messages/desk';
import { english } from '../../messages/locale';
import { plainChart } from '../defaults';
import { boardSaying, type StarterMaker, usualMeasure } from './starter';

const says = () => tell('starter.firstFew.slideACountAll');

/** Of very many categories the first few. */
export const firstFew: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [category] = fields.many.filter(({ profile }) => (profile?.distinct ?? 0) < dataset.rows);
  if (!category) return null;
  const nouns = english.plural(english.inSentence(category.name));
  const question = tell('starter.firstFew.theLargestOf', {
    distinct: english.count(category.profile!.distinct),
    nouns,
  });
  const chart = plainChart(dataset, 'bars', { field: category.key }, usualMeasure(context));
  return {
    id: 'first-few',
    question,
    says: says(),
    board: boardSaying(context, question, chart, ['keep top', 'light']),
  };
};
