import { fieldOf } from '../../data/dataset';
import type { Dimension } from '../../data/dimension';
import type { ChoiceLever } from '../../levers/choice';
import { tell } from '../../messages/desk';
import { english } from '../../messages/locale';
import { memberCue, newLever, plainChart } from '../defaults';
import { boardSaying, lastYear, type StarterContext, type StarterMaker, usualMeasure } from './starter';

const says = () => tell('starter.chosenInTitle.chooseInTheTitle');

/** What rows can be chosen by, and what is chosen first: another field of few values, else the years. */
function chosenBy({ fields }: StarterContext, category: string): { by: Dimension; first: string } | null {
  const other = fields.few.find(({ key, type }) => key !== category && type === 'text');
  const first = other?.profile?.min;
  if (other && typeof first === 'string') return { by: { field: other.key }, first };
  const [date] = fields.date;
  const [from, to] = [String(date?.profile?.min ?? ''), String(date?.profile?.max ?? '')];
  if (!date || from.slice(0, 4) === to.slice(0, 4)) return null;
  return { by: { field: date.key, grain: 'year' }, first: lastYear(to) };
}

/** Bars in colours of their own, of rows that are chosen in the title of the chart. */
export const chosenInTitle: StarterMaker = (context) => {
  const { dataset, fields } = context;
  const [category] = fields.few.filter(({ profile }) => profile!.distinct >= 3);
  const chosen = category && chosenBy(context, category.key);
  if (!category || !chosen) return null;
  const { by, first } = chosen;
  const [of] = fields.measures;
  const shown = tell('starter.chosenInTitle.by', {
    what: of ? of.name : tell('starter.rows'),
    category: english.inSentence(category.name),
  });
  const question = tell('starter.chosenInTitle.oneAtATime', {
    shown,
    period: by.grain ?? english.inSentence(fieldOf(dataset, by.field)!.name),
  });
  const lever = newLever('choice', dataset, by, []) as ChoiceLever;
  const chart = plainChart(dataset, 'bars', { field: category.key }, usualMeasure(context), {
    title: `${shown}: {${lever.id}}`,
    colours: 'each',
    labels: 'always',
    cues: [memberCue(lever.id, [], 'filter')],
  });
  const board = boardSaying(context, question, chart, [], {
    finish(draft) {
      draft.levers.push({ ...lever, start: first });
    },
  });
  return { id: 'chosen-in-title', question, says: says(), board };
};
