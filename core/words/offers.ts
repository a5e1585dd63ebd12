import type { Board } from '../board/board';
import { type Chart, chartTouchLever } from '../board/chart';
import { memberCue, pickLeverFor } from '../board/defaults';
import { idFrom } from '../board/id';
import { conditionKinds } from '../conditions/registry';
import type { DatasetInfo, FieldInfo } from '../dataset';
import { formKinds } from '../forms/registry';
import { cutKey, type FieldCut, type Grain, sameCut } from '../grain';
import { type Lever, leverKinds } from '../levers/registry';
import { isTemporal } from '../values';
import { cutText } from './cut-text';
import { plural } from './plural';
import type { Vocabulary } from './vocabulary';

/** A sentence that would make sense on a chart, and what accepting it does to a draft of the board. */
export interface Offer {
  id: string;
  text: string;
  accept(draft: Board): void;
}

const filterGrains: Grain[] = ['year', 'month'];
/** A longer list is for searching, not for offering; whole numbers with more values than this are measures, not names. */
const maxOffered = { text: 2000, number: 40 };

const chartIn = (draft: Board, id: string) => draft.charts.find((chart) => chart.id === id)!;

/** The lever that picks a cut, made when there is none. */
function leverFor(draft: Board, dataset: DatasetInfo, cut: FieldCut): Lever {
  const found = draft.levers.find(
    (lever) => leverKinds.get(lever.kind).holdsValues && lever.dataset === dataset.id && sameCut(lever, cut),
  );
  if (found) return found;
  const made = pickLeverFor(dataset, cut, draft.levers);
  draft.levers.push(made);
  return made;
}

const readsLever = (chart: Chart, lever: string, effect: string) =>
  chart.cues.some(
    (cue) =>
      cue.effect === effect && conditionKinds.get(cue.condition.kind).levers(cue.condition).includes(lever),
  );

function addCue(draft: Board, chartId: string, lever: string, effect: 'light' | 'filter'): void {
  const chart = chartIn(draft, chartId);
  chart.cues.push(
    memberCue(
      lever,
      chart.cues.map((cue) => cue.id),
      effect,
    ),
  );
}

/** The cuts by which rows can sensibly be kept. */
const cutsOf = (field: FieldInfo): FieldCut[] => {
  if (isTemporal(field.type)) return filterGrains.map((grain) => ({ field: field.key, grain }));
  const distinct = field.profile?.distinct ?? 0;
  const most = field.type === 'decimal' ? 0 : field.type === 'integer' ? maxOffered.number : maxOffered.text;
  return distinct >= 2 && distinct <= most ? [{ field: field.key }] : [];
};

/** What can still be said of a chart, most likely first. */
export function offersFor(chart: Chart, board: Board, dataset: DatasetInfo, words: Vocabulary): Offer[] {
  const form = formKinds.get(chart.form);
  const own = board.levers.find(
    (lever) =>
      leverKinds.get(lever.kind).holdsValues && lever.dataset === chart.dataset && sameCut(lever, chart.by),
  );
  const offers: Offer[] = [];
  const cut = cutText(chart.by, words);

  if (!own || !readsLever(chart, own.id, 'light'))
    offers.push({
      id: 'light',
      text: `Lights the ${form.noun} that are picked, and answers a click on them`,
      accept(draft) {
        const lever = leverFor(draft, dataset, chart.by);
        addCue(draft, chart.id, lever.id, 'light');
        const target = chartIn(draft, chart.id);
        if (!chartTouchLever(target, draft.levers)) target.touches = [{ gesture: 'click', lever: lever.id }];
      },
    });
  if (own && !chartTouchLever(chart, board.levers))
    offers.push({
      id: 'touch',
      text: `Answers a click on a ${form.markNoun} by putting its ${cut} into ${own.name}`,
      accept(draft) {
        chartIn(draft, chart.id).touches = [{ gesture: 'click', lever: own.id }];
      },
    });
  for (const field of dataset.fields)
    for (const fieldCut of cutsOf(field)) {
      const lever = board.levers.find(
        (candidate) => candidate.dataset === dataset.id && sameCut(candidate, fieldCut),
      );
      if (lever && readsLever(chart, lever.id, 'filter')) continue;
      const name = cutText(fieldCut, words);
      const noun = fieldCut.grain ? name.replace(fieldCut.grain, plural(fieldCut.grain)) : plural(name);
      offers.push({
        id: `keep ${cutKey(fieldCut)}`,
        text: `Keeps only rows of picked ${noun}`,
        accept(draft) {
          addCue(draft, chart.id, leverFor(draft, dataset, fieldCut).id, 'filter');
        },
      });
    }
  offers.push({
    id: 'line',
    text: 'Draws a line at a figure',
    accept(draft) {
      const target = chartIn(draft, chart.id);
      target.guides.push({
        kind: 'line',
        id: idFrom(
          'line',
          target.guides.map((guide) => guide.id),
        ),
        at: 0,
        style: 'dashed',
      });
    },
  });
  return offers;
}
