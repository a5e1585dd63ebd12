import type { Chart, Single } from './chart';

const known = new WeakMap<Chart, Chart>();

const isOn = ({ off }: { off?: boolean | undefined }) => !off;

/** A chart without a single part of it. */
function without(chart: Chart, single: Single): Chart {
  if (single === 'format' || single === 'share') {
    const { [single]: _single, ...measure } = chart.measure;
    return { ...chart, measure };
  }
  const { [single]: _single, ...rest } = chart;
  return rest as Chart;
}

/**
 * A chart without what is switched off in it, for all that draws it; cues that are off keep their places. The same chart
 * gives the same one again.
 */
export function enabledChart(chart: Chart): Chart {
  const found = known.get(chart);
  if (found) return found;
  const { off = [], guides, touches, also } = chart;
  const changed = off.length > 0 || ![...guides, ...touches, ...(also ?? [])].every(isOn);
  let enabled = chart;
  if (changed) {
    for (const single of off) enabled = without(enabled, single);
    enabled = {
      ...enabled,
      guides: guides.filter(isOn),
      touches: touches.filter(isOn),
      ...(also ? { also: also.filter(isOn) } : {}),
    };
  }
  known.set(chart, enabled);
  known.set(enabled, enabled);
  return enabled;
}
