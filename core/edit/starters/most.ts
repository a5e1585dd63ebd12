import { english } from '../../words/locale';
import { plainChart } from '../defaults';
import { boardSaying, type StarterMaker, usualMeasure } from './starter';

const says = 'Slide a count: the highest or the lowest light up.';

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
      ? `Which ${noun} has the most rows?`
      : measure.aggregate === 'average'
        ? `Which ${noun} has the highest ${english.inSentence(of.name)}?`
        : `Which ${noun} has the most ${english.inSentence(of.name)}?`;
  const chart = plainChart(dataset, 'bars', { field: category.key }, measure);
  return { id: 'most', question, says, board: boardSaying(context, question, chart, ['top', 'light']) };
};
