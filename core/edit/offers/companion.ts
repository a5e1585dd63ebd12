import { idFrom } from '../../board/id';
import { sameDimension } from '../../data/dimension';
import { formKinds } from '../../forms/registry';
import { tell } from '../../messages/desk';
import { chartTitle } from '../../words/measure-text';
import type { OfferMaker } from './offer';

/** The figures of a chart once more as a table, which answers the same levers. */
export const companionOffers: OfferMaker = ({ chart, board, words }) => {
  const list = formKinds.all().find(({ listsReadings }) => listsReadings);
  const lists = (form: string) => formKinds.get(form).listsReadings === true;
  const there = board.charts.some(
    (each) => lists(each.form) && each.dataset === chart.dataset && sameDimension(each.by, chart.by),
  );
  if (!list || lists(chart.form) || there) return [];
  return [
    {
      id: 'table',
      about: 'shows',
      use: tell('offer.companion.theFiguresToRead'),
      text: tell('offer.companion.showsTheSameValues'),
      accept(draft) {
        const { place: _place, guides: _guides, ...copy } = structuredClone(chart);
        const title = `${chart.title ?? chartTitle(chart, words)}, as a table`;
        const id = idFrom(
          tell('offer.companion.table', { id: chart.id }),
          draft.charts.map((each) => each.id),
        );
        const after = draft.charts.findIndex((each) => each.id === chart.id) + 1;
        draft.charts.splice(after, 0, {
          ...copy,
          guides: [],
          form: list.kind as typeof copy.form,
          id,
          title,
        });
      },
    },
  ];
};
