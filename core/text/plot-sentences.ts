import type { ValueType } from '@sorvik/formula/expression';
import { leversIn } from '@sorvik/formula/lever-names';
import type { Axis } from '../board/axis';
import { type Chart, legendPlaces, type MissingRule, missingRules } from '../board/chart';
import { type FigureFormat, figureStyles } from '../board/figure-format';
import type { ShareScope } from '../board/measure';
import { type Dimension, sameDimension } from '../data/dimension';
import { isNumeric } from '../data/values';
import { formKinds } from '../forms/registry';
import { againstOf, furtherMeasures, splitOf } from '../pipeline/chart-rules';
import { markTextProblem } from '../pipeline/mark-formula';
import { dimensionText } from '../words/dimension-text';
import { atStart } from '../words/letter-case';
import { english } from '../words/locale';
import { aggregateText, measureText } from '../words/measure-text';
import { numberText } from '../words/number-text';
import { counted } from '../words/plural';
import { optionWord, type Part, type Sentence } from '../words/sentence';
import { subtitleLevers } from '../words/subtitle';
import { titleWithNames } from '../words/title-parts';
import type { Vocabulary } from '../words/vocabulary';

const formatTexts: Record<FigureFormat['as'], string> = {
  number: 'as numbers',
  percent: 'as percentages',
  brief: 'in thousands and millions',
};

/** How the figures of a measure are written; `part` is the place of that in the chart. */
function formatSentence(format: FigureFormat, part: (string | number)[], of: string): Sentence {
  const unit: Part = {
    slot: 'text',
    label: 'Unit',
    path: ['unit'],
    text: format.unit || 'no unit',
    value: format.unit ?? '',
  };
  const place = optionWord('Place of the unit', ['unitAt'], format.unitAt ?? 'after', [
    { value: 'after', text: 'after the number' },
    { value: 'before', text: 'before the number' },
  ]);
  return {
    id: part.join('-'),
    levers: [],
    part,
    parts: [
      `Shows ${of} `,
      optionWord(
        'Number format',
        ['as'],
        format.as,
        figureStyles.map((value) => ({ value, text: formatTexts[value] })),
      ),
      ', with ',
      optionWord('Decimals', ['decimals'], format.decimals, [
        { value: undefined, text: 'automatic decimals' },
        ...[0, 1, 2, 3].map((value) => ({
          value,
          text: value ? counted(value, 'decimal', english) : 'no decimals',
        })),
      ]),
      ' and ',
      unit,
      ...(format.unit ? [' ', place] : []),
      '.',
    ],
  };
}

/** Of what a chart's figures are shares, by the names of what its marks stand for. */
function shareSentence(
  share: ShareScope,
  part: (string | number)[],
  chart: Chart,
  words: Vocabulary,
  of: string,
): Sentence {
  const { by } = chart;
  const split = splitOf(chart);
  const parted = split && !sameDimension(split, by);
  return {
    id: part.join('-'),
    levers: [],
    part,
    ...(parted || share === 'everything' || share === 'kept'
      ? {}
      : { problem: 'Each mark is all of that by itself: the chart is not split into series.' }),
    parts: [
      `Shows ${of} as percent of `,
      optionWord('Shares', [], share, [
        { value: 'everything', text: 'the grand total', note: 'of all rows, ignoring filters' },
        { value: 'kept', text: 'the filtered total' },
        ...(parted || share === 'category'
          ? [{ value: 'category' as const, text: `its ${dimensionText(by, words)}` }]
          : []),
        ...(parted || share === 'series'
          ? [{ value: 'series' as const, text: `its ${dimensionText(split ?? by, words)}` }]
          : []),
      ]),
      '.',
    ],
  };
}

const dataEnds = { from: 'the lowest value', to: 'the highest value' };

/** What is wrong with an axis, in words. */
function axisProblem({ scale, from, to }: Axis, chart: Chart): string | undefined {
  const form = formKinds.get(chart.form);
  if (scale === 'log')
    return [from, to].some((end) => typeof end === 'number' && end <= 0)
      ? 'A logarithmic axis has no zero and nothing below it.'
      : undefined;
  if (typeof from === 'number' && typeof to === 'number' && from >= to)
    return 'The axis must end above where it begins.';
  return form.fromZero && (from === 'data' || Number(from) > 0)
    ? `${atStart(form.word)} are measured from zero: the axis begins there.`
    : undefined;
}

function axisSentence(axis: Axis, chart: Chart): Sentence {
  const log = axis.scale === 'log';
  const end = (label: string, name: 'from' | 'to', usual: string): Part => {
    const at = axis[name];
    return {
      slot: 'axisEnd',
      label,
      path: [name],
      text: at === undefined ? usual : at === 'data' ? dataEnds[name] : numberText(at, english),
      value: at,
      options: [
        { value: undefined, text: usual },
        ...(name === 'from' && !log ? [{ value: 'data', text: dataEnds.from }] : []),
      ],
    };
  };
  const problem = axisProblem(axis, chart);
  return {
    id: 'axis',
    levers: [],
    part: ['axis'],
    ...(problem ? { problem } : {}),
    parts: [
      'Uses a ',
      optionWord('Scale', ['scale'], axis.scale ?? 'even', [
        { value: 'even', text: 'linear' },
        { value: 'log', text: 'logarithmic', note: 'each step ten times the one before' },
      ]),
      ' value axis from ',
      end('Start of the axis', 'from', log ? dataEnds.from : 'zero'),
      ' to ',
      end('End of the axis', 'to', dataEnds.to),
      ', ',
      optionWord('Grid lines', ['grid'], axis.grid ?? 'lines', [
        { value: 'lines', text: 'with grid lines' },
        { value: 'none', text: 'without grid lines' },
      ]),
      '.',
    ],
  };
}

const legendTexts: Record<(typeof legendPlaces)[number], string> = {
  above: 'above the plot',
  right: 'to the right of the plot',
  below: 'below the plot',
  none: 'nowhere',
};

const missingTexts: Record<MissingRule, string> = {
  zero: 'drops to zero',
  bridged: 'connects the neighbours',
};

/** Why the further measures of a chart are not shown, in words. */
function furtherMeasureProblem(chart: Chart, words: Vocabulary): string | undefined {
  if (furtherMeasures(chart).length) return undefined;
  if (chart.split) return `A chart that is split by ${dimensionText(chart.split, words)} shows one measure.`;
  return `${atStart(formKinds.get(chart.form).noun)} show ${againstOf(chart) ? 'no third' : 'one'} measure.`;
}

/** The further measures, and how each is written. */
function furtherMeasureSentences(chart: Chart, words: Vocabulary): Sentence[] {
  const problem = furtherMeasureProblem(chart, words);
  const second = formKinds.get(chart.form).secondAxis;
  return (chart.also ?? []).flatMap(({ measure, axis, base }, i): Sentence[] => {
    const part = ['also', i];
    const sentence: Sentence = {
      id: `also-${i}`,
      levers: [],
      part,
      ...(problem ? { problem } : {}),
      parts: [
        'Also shows ',
        { slot: 'alsoMeasure', path: ['measure'], text: aggregateText(measure, words), value: measure },
        ' on ',
        second
          ? optionWord('Axis', ['axis'], axis ?? 'same', [
              { value: 'same', text: 'the same axis' },
              { value: 'second', text: 'its own axis', note: 'at the right' },
            ])
          : 'the same axis',
        `; ${measureText(chart.measure, words)} is drawn `,
        optionWord('The first measure', ['base'], base ?? 'plain', [
          { value: 'plain', text: 'normally' },
          { value: 'muted', text: 'muted as a baseline' },
        ]),
        '.',
      ],
    };
    const of = (key: string) => [...part, 'measure', key];
    const name = measureText(measure, words);
    return [
      sentence,
      ...(measure.share ? [shareSentence(measure.share, of('share'), chart, words, name)] : []),
      ...(measure.format ? [formatSentence(measure.format, of('format'), name)] : []),
    ];
  });
}

/** What a formula says of marks: beside them, or where they are pointed at. */
function markTextSentence(
  part: 'beside' | 'pointed',
  says: string,
  chart: Chart,
  words: Vocabulary,
): Sentence[] {
  const text = chart[part];
  if (text === undefined) return [];
  const { levers, lever, engine } = words;
  const typeOf = (dimension: Dimension): ValueType => {
    const type = words.field(dimension.field)?.type;
    return dimension.grain ? 'date' : type && isNumeric(type) ? 'number' : ((type as ValueType) ?? 'text');
  };
  const problem = markTextProblem(text, { ...chart, engine, levers, lever, typeOf });
  return [
    {
      id: part,
      levers: leversIn(text),
      part: [part],
      ...(problem ? { problem: problem.message } : {}),
      parts: [says, { slot: 'markText', path: [], text, value: text }, '.'],
    },
  ];
}

/** Further measures, how figures are written, what the value axis shows, and what stands for a missing reading. */
export function plotSentences(chart: Chart, words: Vocabulary): Sentence[] {
  const { axis, missing, measure } = chart;
  const sentences: Sentence[] = furtherMeasureSentences(chart, words);
  // Of several measures each sentence names the one that it is about.
  const name = furtherMeasures(chart).length ? measureText(measure, words) : 'values';
  if (measure.share) sentences.push(shareSentence(measure.share, ['measure', 'share'], chart, words, name));
  if (measure.format) sentences.push(formatSentence(measure.format, ['measure', 'format'], name));
  if (chart.subtitle !== undefined)
    sentences.push({
      id: 'subtitle',
      levers: subtitleLevers(chart.subtitle),
      part: ['subtitle'],
      parts: [
        'Has the subtitle ',
        {
          slot: 'liveText',
          path: [],
          text: titleWithNames(chart.subtitle, { levers: words.levers }) || 'nothing yet',
          value: chart.subtitle,
        },
        '.',
      ],
    });
  if (chart.legend)
    sentences.push({
      id: 'legend',
      levers: [],
      part: ['legend'],
      parts: [
        'Shows the legend ',
        optionWord(
          'Legend',
          [],
          chart.legend,
          legendPlaces.map((value) => ({ value, text: legendTexts[value] })),
        ),
        '.',
      ],
    });
  sentences.push(
    ...markTextSentence('beside', 'Labels each mark with ', chart, words),
    ...markTextSentence('pointed', 'Adds to the tooltip: ', chart, words),
  );
  if (axis) sentences.push(axisSentence(axis, chart));
  if (missing && formKinds.get(chart.form).lineStates)
    sentences.push({
      id: 'missing',
      levers: [],
      part: ['missing'],
      parts: [
        'Where a value is missing, the line ',
        optionWord(
          'Where a value is missing',
          [],
          missing,
          missingRules.map((value) => ({ value, text: missingTexts[value] })),
        ),
        '.',
      ],
    });
  return sentences;
}
