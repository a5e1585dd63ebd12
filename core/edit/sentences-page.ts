import type { FormulaEngine } from '@sorvik/formula/engine';
import { type Board, boardVersion } from '../board/board';
import type { Chart } from '../board/chart';
import type { DatasetInfo, FieldInfo } from '../data/dataset';
import { chartSentences } from '../text/chart-sentences';
import type { Part, Sentence, Word } from '../words/sentence';
import { vocabularyOf } from '../words/vocabulary';
import { plainChart } from './defaults';
import type { Offer } from './offers/offer';
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

const sections = [
  'What it shows',
  'What it lights',
  'What it leaves out',
  'What it draws',
  'What it compares',
  'How it reads',
] as const;

/** Where each sentence stands on the page, and what it is good for. The first pattern that fits an offer's id counts. */
const uses: readonly [RegExp, (typeof sections)[number], string][] = [
  [
    /^light$/,
    'What it lights',
    'Viewers pick some, in a list or on the chart itself, and see them among all.',
  ],
  [/^touch$/, 'What it lights', 'The chart moves a list that it does not light by itself.'],
  [
    /^light years$/,
    'What it lights',
    'One year among several: a lever of wider periods lights all that lie in them.',
  ],
  [/^light by /, 'What it lights', 'A list that another chart has already lights this one, too.'],
  [/^top$/, 'What it lights', 'The leaders or the stragglers, as many as a slider says.'],
  [/^above$/, 'What it lights', 'What passes a mark that viewers set, and can drag.'],
  [/^limits$/, 'What it lights', 'What leaves a corridor, above in one look and below in another.'],
  [/^shares$/, 'What it lights', 'The same where the range differs from chart to chart.'],
  [/^span$/, 'What it lights', 'A stretch of time, brushed on the chart or set by dates.'],
  [/^clock/, 'What it lights', 'The present hour, day or month, which moves by itself.'],
  [
    /^latest$/,
    'What it lights',
    'The newest figure: of all data, of what is visible, or of the last business day.',
  ],
  [/^segments$/, 'What it lights', 'Before and after something happened.'],
  [/^focus$/, 'What it lights', 'Whatever is under the pointer, without moving a lever.'],
  [/^formula$/, 'What it lights', 'Whatever else can be said in SQL.'],
  [/^one-series$/, 'What it lights', 'One line in its own colour, the others as ghosts.'],
  [/^picked-series$/, 'What it lights', 'Some lines among forty.'],
  [/^pointed-series$/, 'What it lights', 'Reading one line after the other, quickly.'],
  [/^keep top$/, 'What it leaves out', 'Two hundred bars become twenty; totals stay what they are.'],
  [/^keep span /, 'What it leaves out', 'Only some time counts.'],
  [/^keep /, 'What it leaves out', 'Only some rows count. One word turns filtering into lighting, and back.'],
  [/^window$/, 'What it shows', 'Years of days, a year at a time.'],
  [/^split /, 'What it shows', 'One line, or one part of a bar, for each.'],
  [/^stack$/, 'What it shows', 'Parts that add up.'],
  [/^whole$/, 'What it shows', 'How full each bar is.'],
  [/^also$/, 'What it shows', 'Two measures in one plot.'],
  [/^rehearsal$/, 'What it shows', 'What would be if a rate changed, beside what is.'],
  [/^table$/, 'What it shows', 'The figures to read off, beside the picture.'],
  [/^share$/, 'What it shows', 'Parts of a whole, in percent.'],
  [/^missing$/, 'What it shows', 'Gaps that mean nothing, or mean zero.'],
  [
    /^axis-/,
    'What it shows',
    'Two charts on one scale; differences that are small beside the values; growth.',
  ],
  [/^compare$/, 'What it compares', 'Every bar against the one that is touched, above and below zero.'],
  [/^compare-year$/, 'What it compares', 'Growth over the year, season for season.'],
  [/^line$/, 'What it draws', 'A target, a mean, a limit that a lever holds.'],
  [/^band$/, 'What it draws', 'A range that is usual, or allowed.'],
  [/^events$/, 'What it draws', 'When something happened, with its name.'],
  [/^category$/, 'What it draws', 'A note at one bar.'],
  [/^own-colours$/, 'How it reads', 'Bars that are known by their colours elsewhere.'],
  [/^labels$/, 'How it reads', 'Numbers where they matter.'],
  [/^figures$/, 'How it reads', 'Numbers without another column of text.'],
  [/^format$/, 'How it reads', 'Units, percent, as many decimals as count.'],
  [/^title$/, 'How it reads', 'A title that says what is chosen.'],
  [/^subtitle$/, 'How it reads', 'One line that says what the chart says now.'],
  [/^legend$/, 'How it reads', 'Room where there is some.'],
  [/^beside$/, 'How it reads', 'Ranks, changes, whatever can be computed.'],
  [/^pointed$/, 'How it reads', 'Details for whoever asks.'],
];

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
  const found = new Map<RegExp, string>();
  for (const each of charts) {
    const board: Board = { version: boardVersion, title: 'Sailings', levers: [], charts: [each] };
    const words = vocabularyOf(board, sailings, engine);
    for (const offer of offersFor({
      chart: each,
      board,
      dataset: sailings,
      words,
      range: { min: 0, max: 900 },
    })) {
      const use = uses.find(([pattern]) => pattern.test(offer.id));
      if (!use) throw new Error(`docs: nothing says what "${offer.id}" is good for`);
      if (found.has(use[0])) continue;
      const sentences = addedBy(offer, board, engine);
      const examples = sentences.map((sentence) => `> ${written(sentence)}`).join('\n>\n');
      const options = [...new Set(sentences.flatMap(choices))].join('\n');
      found.set(use[0], [`### ${offer.text}`, use[2], examples, options].filter(Boolean).join('\n\n'));
    }
  }
  return [
    '# What can be said of a chart',
    'Each line below the board is a sentence; its words, here in [brackets], can be changed. **+ Add a sentence…** offers those that make sense of the chart, and brings the levers they need; what cannot be said says why. Sentences can be switched off, put in order, removed, and copied to other charts. If several sentences light a mark, the first one decides its look. Conditions are joined by *and*, *or*, *not* with the [+] in a sentence. This page is made from the code by `npm run docs`.',
    ...sections.flatMap((section) => {
      const entries = uses.flatMap(([pattern, at]) => (at === section ? (found.get(pattern) ?? []) : []));
      return entries.length ? [`## ${section}`, ...entries] : [];
    }),
  ]
    .join('\n\n')
    .concat('\n');
}
