import type { FormulaEngine } from '@sorvik/formula/engine';
import { type Board, boardVersion } from '../board/board';
import type { Chart } from '../board/chart';
import type { DatasetInfo, FieldInfo } from '../data/dataset';
import { chartSentences } from '../text/chart-sentences';
import type { Part, Sentence, Word } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { plainChart } from './defaults';
import type { Offer, OfferSubject } from './offers/offer';
import { offersFor } from './offers/offers-for';

const field = (
  key: string,
  name: string,
  type: FieldInfo['type'],
  distinct: number,
  ends: [number | string, number | string],
): FieldInfo => ({
  key,
  name,
  type,
  profile: { count: 150_000, distinct, missing: 0, min: ends[0], max: ends[1] },
});

/** A table such as the demo has, of which sentences can be said. */
const sailings: DatasetInfo = {
  id: 'sailings',
  name: 'Sailings',
  version: 1,
  rows: 150_000,
  fields: [
    field('date', 'Date', 'date', 2192, ['2019-01-01', '2024-12-31']),
    field('hour', 'Departure hour', 'integer', 24, [0, 23]),
    field('route', 'Route', 'text', 14, ['Brask – Umbry', 'Vemmen – Brask']),
    field('fare', 'Fare type', 'text', 3, ['commuter pass', 'visitor']),
    field('passengers', 'Passengers', 'integer', 400, [0, 400]),
    field('delay', 'Delay', 'decimal', 900, [0, 90]),
  ],
};
const passengers = { aggregate: 'sum', field: 'passengers' } as const;
const month = { field: 'date', grain: 'month' } as const;
const chart = (form: Chart['form'], by: Chart['by'], more: Partial<Chart> = {}) =>
  plainChart(sailings, form, by, passengers, more);

/** Charts of which, taken together, everything can be said. */
const charts: readonly Chart[] = [
  chart('bars', { field: 'route' }),
  chart('columns', month),
  chart('line', month, { split: { field: 'fare', colours: 'own' } }),
  chart('columns', { field: 'route' }, { split: { field: 'fare', colours: 'own' } }),
  chart('columns', { field: 'hour' }, { order: { by: 'key', direction: 'ascending' } }),
];

/** The parts of the page, in their order. */
const headings: Record<OfferSubject, string> = {
  shows: 'What it shows',
  lights: 'What it lights',
  'leaves out': 'What it leaves out',
  draws: 'What it draws',
  compares: 'What it compares',
  reads: 'How it reads',
};

const isWord = (part: Part): part is Word => typeof part !== 'string';

/** A sentence with its words in brackets. */
const written = ({ parts }: Sentence): string =>
  parts.map((part) => (!isWord(part) ? part : part.slot === 'join' ? '' : `[${part.text}]`)).join('');

/** The other texts that the words of a sentence can be. */
const choices = ({ parts }: Sentence): string[] =>
  parts.filter(isWord).flatMap(({ text, label, options = [] }) => {
    const others = options.filter((option) => option.text !== text);
    return others.length
      ? [`- ${label ?? text}: also ${others.map((option) => `*${option.text}*`).join(', ')}`]
      : [];
  });

/** The sentences that an offer adds to a chart. */
function addedBy(offer: Offer, board: Board, engine: FormulaEngine): Sentence[] {
  const say = (on: Board) =>
    on.charts.flatMap((each) => chartSentences(each, on, vocabularyOf(on, sailings, engine)));
  const known = new Set(say(board).map(written));
  const draft = structuredClone(board);
  offer.accept(draft);
  return say(draft).filter((sentence) => !known.has(written(sentence)) && sentence.id !== 'otherwise');
}

/** All that can be said of a chart, by section: each with an example, its use, and what its words can be. In Markdown. */
export function sentencesPage(engine: FormulaEngine): string {
  const entries = new Map<string, { about: OfferSubject; text: string }>();
  for (const each of charts) {
    const board: Board = { version: boardVersion, title: 'Sailings', levers: [], charts: [each] };
    const words = vocabularyOf(board, sailings, engine);
    const range = { min: 0, max: 900 };
    for (const offer of offersFor({ chart: each, board, dataset: sailings, words, range })) {
      // Offers of one sort differ in the field only: the first stands for all.
      if (entries.has(offer.use)) continue;
      const sentences = addedBy(offer, board, engine);
      const examples = sentences.map((sentence) => `> ${written(sentence)}`).join('\n>\n');
      const options = [...new Set(sentences.flatMap(choices))].join('\n');
      const text = [`### ${offer.text}`, offer.use, examples, options].filter(Boolean).join('\n\n');
      entries.set(offer.use, { about: offer.about, text });
    }
  }
  return [
    '# What can be said of a chart',
    'Each line below the board is a sentence; its words, here in [brackets], can be changed. **+ Add a sentence…** offers those that make sense of the chart, and brings the levers they need; what cannot be said says why. Sentences can be switched off, put in order, removed, and copied to other charts. If several sentences light a mark, the first one decides its look. Conditions are joined by *and*, *or*, *not* with the [+] in a sentence. This page is made from the code by `npm run docs`.',
    ...Object.entries(headings).flatMap(([about, heading]) => [
      `## ${heading}`,
      ...[...entries.values()].filter((entry) => entry.about === about).map(({ text }) => text),
    ]),
  ]
    .join('\n\n')
    .concat('\n');
}
