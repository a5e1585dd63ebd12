import type { Axis } from '../board/axis';
import { type Chart, type MissingRule, missingRules } from '../board/chart';
import { type FigureFormat, figureStyles } from '../board/figure-format';
import { formKinds } from '../forms/registry';
import { atStart } from './letter-case';
import { numberText } from './number-text';
import { counted } from './plural';
import { optionWord, type Part, type Sentence } from './sentence';

const formatTexts: Record<FigureFormat['as'], string> = {
  number: 'as numbers',
  percent: 'as percentages',
  brief: 'in thousands and millions',
};

/** How the figures of a measure are written; `part` is the place of that in the chart. */
function formatSentence(format: FigureFormat, part: string[]): Sentence {
  const unit: Part = {
    slot: 'text',
    label: 'Unit',
    path: ['unit'],
    text: format.unit || 'no unit',
    value: format.unit ?? '',
  };
  const place = optionWord('Place of the unit', ['unitAt'], format.unitAt ?? 'after', [
    { value: 'after', text: 'after them' },
    { value: 'before', text: 'before them' },
  ]);
  return {
    id: part.join('-'),
    levers: [],
    part,
    parts: [
      'Writes its figures ',
      optionWord(
        'Figures',
        ['as'],
        format.as,
        figureStyles.map((value) => ({ value, text: formatTexts[value] })),
      ),
      ', with ',
      optionWord('Decimals', ['decimals'], format.decimals, [
        { value: undefined, text: 'the decimals they deserve' },
        ...[0, 1, 2, 3].map((value) => ({ value, text: value ? counted(value, 'decimal') : 'no decimals' })),
      ]),
      ', and ',
      unit,
      ...(format.unit ? [' ', place] : []),
      '.',
    ],
  };
}

const dataEnds = { from: 'the lowest reading', to: 'the highest reading' };

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
      text: at === undefined ? usual : at === 'data' ? dataEnds[name] : numberText(at),
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
      'Measures them on an axis that is ',
      optionWord('Scale', ['scale'], axis.scale ?? 'even', [
        { value: 'even', text: 'even' },
        { value: 'log', text: 'logarithmic', note: 'each step ten times the one before' },
      ]),
      ', from ',
      end('Begin of the axis', 'from', log ? dataEnds.from : 'zero'),
      ' to ',
      end('End of the axis', 'to', dataEnds.to),
      '.',
    ],
  };
}

const missingTexts: Record<MissingRule, string> = {
  zero: 'falls to zero',
  bridged: 'is led straight across',
};

/** How figures are written, what the value axis shows, and what stands for a missing reading. */
export function plotSentences(chart: Chart): Sentence[] {
  const { axis, missing, measure } = chart;
  const sentences: Sentence[] = [];
  if (measure.format) sentences.push(formatSentence(measure.format, ['measure', 'format']));
  if (axis) sentences.push(axisSentence(axis, chart));
  if (missing && formKinds.get(chart.form).strands)
    sentences.push({
      id: 'missing',
      levers: [],
      part: ['missing'],
      parts: [
        'Where a reading is missing, the line ',
        optionWord(
          'Where a reading is missing',
          [],
          missing,
          missingRules.map((value) => ({ value, text: missingTexts[value] })),
        ),
        '.',
      ],
    });
  return sentences;
}
