import type { ValueType } from '@sorvik/formula/expression';
import { leversIn } from '@sorvik/formula/lever-names';
import type { Axis } from '../board/axis';
import { type Chart, legendPlaces, missingRules } from '../board/chart';
import { type FigureFormat, figureStyles } from '../board/figure-format';
import type { ShareScope } from '../board/measure';
import { type Dimension, sameDimension } from '../data/dimension';
import { isNumeric } from '../data/values';
import { formKinds } from '../forms/registry';
import { tell } from '../messages/desk';
import { english } from '../messages/locale';
import { againstOf, furtherMeasures, splitOf } from '../pipeline/chart-rules';
import { markTextProblem } from '../pipeline/mark-formula';
import { dimensionText } from '../words/dimension-text';
import { atStart } from '../words/letter-case';
import { aggregateText, measureText } from '../words/measure-text';
import { numberText } from '../words/number-text';
import { optionWord, type Part, type Sentence, sentenceParts } from '../words/sentence';
import { subtitleLevers } from '../words/subtitle';
import { titleWithNames } from '../words/title-parts';
import type { Vocabulary } from '../words/vocabulary';

/** How the figures of a measure are written; `part` is the place of that in the chart. */
function formatSentence(format: FigureFormat, part: (string | number)[], of: string): Sentence {
  const unit: Part = {
    slot: 'text',
    label: tell('format.unit'),
    path: ['unit'],
    text: format.unit || tell('format.noUnit'),
    value: format.unit ?? '',
  };
  const unitAt = optionWord(tell('format.unitAt'), ['unitAt'], format.unitAt ?? 'after', [
    { value: 'after', text: tell('format.after') },
    { value: 'before', text: tell('format.before') },
  ]);
  return {
    id: part.join('-'),
    levers: [],
    part,
    parts: sentenceParts('format', {
      of,
      style: optionWord(
        tell('format.style'),
        ['as'],
        format.as,
        figureStyles.map((value) => ({ value, text: tell('format.as', { as: value }) })),
      ),
      decimals: optionWord(tell('format.decimals'), ['decimals'], format.decimals, [
        { value: undefined, text: tell('format.automatic') },
        ...[0, 1, 2, 3].map((value) => ({ value, text: tell('format.places', { n: value }) })),
      ]),
      unit,
      hasUnit: format.unit ? 'yes' : 'no',
      unitAt,
    }),
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
    ...(parted || share === 'everything' || share === 'kept' ? {} : { problem: tell('share.unsplit') }),
    parts: sentenceParts('share', {
      of,
      whole: optionWord(tell('share.of'), [], share, [
        { value: 'everything', text: tell('whole.everything'), note: tell('share.everything') },
        { value: 'kept', text: tell('whole.filtered') },
        ...(parted || share === 'category'
          ? [
              {
                value: 'category' as const,
                text: tell('share.its', { dimension: dimensionText(by, words) }),
              },
            ]
          : []),
        ...(parted || share === 'series'
          ? [
              {
                value: 'series' as const,
                text: tell('share.its', { dimension: dimensionText(split ?? by, words) }),
              },
            ]
          : []),
      ]),
    }),
  };
}

/** What is wrong with an axis, in words. */
function axisProblem({ scale, from, to }: Axis, chart: Chart): string | undefined {
  const form = formKinds.get(chart.form);
  if (scale === 'log')
    return [from, to].some((end) => typeof end === 'number' && end <= 0) ? tell('axis.noZero') : undefined;
  if (typeof from === 'number' && typeof to === 'number' && from >= to) return tell('axis.backwards');
  return form.fromZero && (from === 'data' || Number(from) > 0)
    ? tell('axis.fromZero', { form: atStart(form.word) })
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
      text:
        at === undefined ? usual : at === 'data' ? tell('axis.data', { end: name }) : numberText(at, english),
      value: at,
      options: [
        { value: undefined, text: usual },
        ...(name === 'from' && !log ? [{ value: 'data', text: tell('axis.data', { end: 'from' }) }] : []),
      ],
    };
  };
  const problem = axisProblem(axis, chart);
  return {
    id: 'axis',
    levers: [],
    part: ['axis'],
    ...(problem ? { problem } : {}),
    parts: sentenceParts('axis', {
      scale: optionWord(tell('axis.scale'), ['scale'], axis.scale ?? 'even', [
        { value: 'even', text: tell('axis.even') },
        { value: 'log', text: tell('axis.log'), note: tell('axis.logNote') },
      ]),
      from: end(tell('axis.start'), 'from', log ? tell('axis.data', { end: 'from' }) : tell('axis.zero')),
      to: end(tell('axis.end'), 'to', tell('axis.data', { end: 'to' })),
      grid: optionWord(tell('axis.grid'), ['grid'], axis.grid ?? 'lines', [
        { value: 'lines', text: tell('axis.lines') },
        { value: 'none', text: tell('axis.noLines') },
      ]),
    }),
  };
}

/** Why the further measures of a chart are not shown, in words. */
function furtherMeasureProblem(chart: Chart, words: Vocabulary): string | undefined {
  if (furtherMeasures(chart).length) return undefined;
  if (chart.split) return tell('also.split', { split: dimensionText(chart.split, words) });
  return tell('also.full', {
    marks: atStart(formKinds.get(chart.form).noun),
    against: againstOf(chart) ? 'yes' : 'no',
  });
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
      parts: sentenceParts('also', {
        measure: {
          slot: 'alsoMeasure',
          path: ['measure'],
          text: aggregateText(measure, words),
          value: measure,
        },
        axis: second
          ? optionWord(tell('also.axis'), ['axis'], axis ?? 'same', [
              { value: 'same', text: tell('also.sameAxis') },
              { value: 'second', text: tell('also.ownAxis'), note: tell('also.right') },
            ])
          : tell('also.sameAxis'),
        first: measureText(chart.measure, words),
        base: optionWord(tell('also.first'), ['base'], base ?? 'plain', [
          { value: 'plain', text: tell('also.plain') },
          { value: 'muted', text: tell('also.muted') },
        ]),
      }),
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
function markTextSentence(part: 'beside' | 'pointed', chart: Chart, words: Vocabulary): Sentence[] {
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
      parts: sentenceParts(part, { text: { slot: 'markText', path: [], text, value: text } }),
    },
  ];
}

/** Further measures, how figures are written, what the value axis shows, and what stands for a missing reading. */
export function plotSentences(chart: Chart, words: Vocabulary): Sentence[] {
  const { axis, missing, measure } = chart;
  const sentences: Sentence[] = furtherMeasureSentences(chart, words);
  // Of several measures each sentence names the one that it is about.
  const name = furtherMeasures(chart).length ? measureText(measure, words) : tell('format.values');
  if (measure.share) sentences.push(shareSentence(measure.share, ['measure', 'share'], chart, words, name));
  if (measure.format) sentences.push(formatSentence(measure.format, ['measure', 'format'], name));
  if (chart.subtitle !== undefined)
    sentences.push({
      id: 'subtitle',
      levers: subtitleLevers(chart.subtitle),
      part: ['subtitle'],
      parts: sentenceParts('subtitle', {
        text: {
          slot: 'liveText',
          path: [],
          text: titleWithNames(chart.subtitle, { levers: words.levers }) || tell('subtitle.empty'),
          value: chart.subtitle,
        },
      }),
    });
  if (chart.legend)
    sentences.push({
      id: 'legend',
      levers: [],
      part: ['legend'],
      parts: sentenceParts('legend', {
        place: optionWord(
          tell('legend.label'),
          [],
          chart.legend,
          legendPlaces.map((value) => ({ value, text: tell('legend.place', { place: value }) })),
        ),
      }),
    });
  sentences.push(...markTextSentence('beside', chart, words), ...markTextSentence('pointed', chart, words));
  if (axis) sentences.push(axisSentence(axis, chart));
  if (missing && formKinds.get(chart.form).lineStates)
    sentences.push({
      id: 'missing',
      levers: [],
      part: ['missing'],
      parts: sentenceParts('missing.line', {
        rule: optionWord(
          tell('missing.label'),
          [],
          missing,
          missingRules.map((value) => ({ value, text: tell('missing.rule', { rule: value }) })),
        ),
      }),
    });
  return sentences;
}
