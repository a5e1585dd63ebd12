import type { FieldShape } from '@sorvik/core/board/api-types';
import ApexCharts, { type ApexOptions } from 'apexcharts';
import { useEffect, useRef, useState } from 'react';
import { useFieldShapeQuery } from '../app/editing-api';
import { tell } from '../ui/tell';

interface Props {
  dataset: string;
  field: string;
  version: number;
  name: string;
}

const optionsFor = (shape: FieldShape, name: string): ApexOptions => ({
  chart: {
    type: 'bar',
    height: 54,
    width: '100%',
    toolbar: { show: false },
    animations: { enabled: false },
    sparkline: { enabled: true },
    fontFamily: 'inherit',
  },
  plotOptions: { bar: { columnWidth: shape.kind === 'ranges' ? '96%' : '72%' } },
  colors: ['var(--sv-mark-plain)'],
  xaxis: { categories: shape.bins.map((bin) => bin.label) },
  tooltip: {
    theme: 'dark',
    y: {
      formatter: (value) => tell('dataset.fieldChart.rows', { rows: value }),
      title: { formatter: () => '' },
    },
    x: { show: true },
    marker: { show: false },
  },
  title: { text: name, style: { fontSize: '0px' } },
});

/** The chart of a spread, which draws itself into a place of its own. */
function Spread({ shape, name }: { shape: FieldShape; name: string }) {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const chart = new ApexCharts(place.current!, {
      ...optionsFor(shape, name),
      series: [{ name, data: shape.bins.map((bin) => bin.count) }],
    });
    void chart.render();
    return () => chart.destroy();
  }, [shape, name]);
  return <div ref={place} />;
}

/** How a field's values are spread, drawn when it comes into view. */
export function FieldChart({ dataset, field, version, name }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setSeen(true), {
      rootMargin: '200px',
    });
    observer.observe(place.current!);
    return () => observer.disconnect();
  }, []);
  const { data: shape } = useFieldShapeQuery({ id: dataset, key: field, version }, { skip: !seen });
  return (
    <div ref={place} className="sv-field-chart">
      {shape && shape.bins.length > 0 && <Spread shape={shape} name={name} />}
      {shape && shape.others > 0 && (
        <small>{tell('dataset.fieldChart.othersMoreRowsWithOther', { others: shape.others })}</small>
      )}
    </div>
  );
}
