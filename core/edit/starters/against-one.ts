import { english } from '../../words/locale';
import { plainChart } from '../defaults';
import { boardSaying, leverOfKind, type StarterMaker, usualMeasure } from './starter';

const says = 'Touch one: all others show how far they are from it.';

/** Every category held against one that is touched. */
export const againstOne: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [category] = fields.few.filter(({ type, profile }) => type === 'text' && profile!.distinct >= 3);
  if (!category) return null;
  const { min } = category.profile!;
  const question = `Every ${english.inSentence(category.name)} compared with one`;
  const chart = plainChart(dataset, 'bars', { field: category.key }, usualMeasure(context));
  const board = boardSaying(context, question, chart, ['compare'], {
    finish: (draft) => {
      const lever = leverOfKind(draft, 'choice');
      if (lever && typeof min === 'string') lever.start = min;
    },
  });
  return { id: 'against-one', question, says, board };
};
