import { tell } from '../../messages/desk';
import { english } from '../../messages/locale';
import { plainChart } from '../defaults';
import { boardSaying, leverOfKind, type StarterMaker, usualMeasure } from './starter';

const says = () => tell('starter.againstOne.touchOneAllOthers');

/** Every category held against one that is touched. */
export const againstOne: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [category] = fields.few.filter(({ type, profile }) => type === 'text' && profile!.distinct >= 3);
  if (!category) return null;
  const { min } = category.profile!;
  const question = tell('starter.againstOne.everyComparedWithOne', {
    category: english.inSentence(category.name),
  });
  const chart = plainChart(dataset, 'bars', { field: category.key }, usualMeasure(context));
  const board = boardSaying(context, question, chart, ['compare'], {
    finish: (draft) => {
      const lever = leverOfKind(draft, 'choice');
      if (lever && typeof min === 'string') lever.start = min;
    },
  });
  return { id: 'against-one', question, says: says(), board };
};
