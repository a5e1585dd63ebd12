import type { Readings } from '../data/readings';
import { estimateText } from '../forms/fit-text';
import type { FormInput } from '../forms/form-kind';
import { english } from '../messages/locale';
import { endsOf } from '../pipeline/stack';
import { briefShareText, tickTexts } from '../words/number-text';

/** What a form is given to draw these readings on 600 by 400 px. */
export function formInput(readings: Readings, more: Partial<FormInput> = {}): FormInput {
  const known = readings.value.filter((value) => !Number.isNaN(value));
  return {
    readings,
    labels: readings.places.map(String),
    seriesNames: readings.series.map(String),
    valueText: (i) => String(readings.value[i]),
    ends: endsOf(readings, 'beside'),
    stacked: false,
    alone: false,
    inside: false,
    wholes: null,
    tickTexts: (ticks) => tickTexts(ticks, english),
    shareText: (share) => briefShareText(share, english),
    width: 600,
    height: 400,
    range: { low: Math.min(0, ...known), high: Math.max(0, ...known), scale: 'even' },
    fit: false,
    headRows: 0,
    labelSteps: [],
    measure: estimateText,
    miniature: false,
    ...more,
  };
}
