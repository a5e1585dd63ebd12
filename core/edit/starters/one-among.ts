import { tell } from '../../messages/desk';
import { english } from '../../messages/locale';
import { mostOwnColours } from '../../pipeline/series-looks';
import { firstGrain, plainChart } from '../defaults';
import { mostSeries } from '../offers/series';
import { boardSaying, leverOfKind, type StarterMaker, usualMeasure } from './starter';

const says = () => tell('starter.oneAmong.chooseOneItStands');

/** One of many lines, the others muted. */
export const oneAmong: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [date] = fields.date;
  const parting = [...fields.few, ...fields.many].filter(({ type, profile }) => {
    const distinct = profile?.distinct ?? 0;
    return type === 'text' && distinct >= 4 && distinct <= mostSeries;
  });
  // The more lines, the more there is to tell apart.
  const [split] = parting.sort((a, b) => b.profile!.distinct - a.profile!.distinct);
  if (!date || !split) return null;
  const { distinct, min } = split.profile!;
  const question = tell('starter.oneAmong.oneAmong', {
    split: english.inSentence(split.name),
    distinct: english.count(distinct),
  });
  const grain = firstGrain(date) === 'day' ? 'day' : 'month';
  const chart = plainChart(dataset, 'line', { field: date.key, grain }, usualMeasure(context), {
    // Few lines have a colour each, in which the chosen one stays.
    split: { field: split.key, colours: distinct <= mostOwnColours ? 'own' : 'one' },
  });
  const board = boardSaying(context, question, chart, ['one-series', 'pointed-series'], {
    finish: (draft) => {
      const lever = leverOfKind(draft, 'choice');
      if (lever && typeof min === 'string') lever.start = min;
    },
  });
  return { id: 'one-among', question, says: says(), board };
};
