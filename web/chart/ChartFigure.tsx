import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { enabledChart } from '@sorvik/core/board/enabled';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { pictureAddress } from '@sorvik/core/levers/picture-address';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { ChartView } from '@sorvik/view/chart-view';
import { memo, useEffect, useId, useLayoutEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { useAppStore } from '../app/store';
import { boardWords } from '../board/board-words';
import { leverMoved } from '../board/positions-slice';
import { useKnownFacts } from '../levers/facts-context';
import { useLanguage } from '../ui/language';
import { ChartHead } from './ChartHead';
import { chartInput } from './chart-input';
import { paintedCharts } from './painted-charts';
import { pointedInWorkings, pressedInChart } from './pointed-mark';
import { useChartData } from './use-cube';

interface Props {
  board: Board;
  chart: Chart;
  /** A small still picture at these positions, without words and without answering to touches. */
  still?: Positions;
  /** Touches move no hidden levers: those are fixed for viewers. */
  viewed?: boolean;
  /** It has the whole window, and what gives it that, or takes it back: null. */
  large?: boolean;
  onEnlarge?(chart: string | null): void;
}

/** A chart on a board: mounts its view, and tells it of the chart, its data, and where the levers stand. */
export const ChartFigure = memo(function ChartFigure(props: Props) {
  const { board, chart: described, still, viewed = false, large = false, onEnlarge } = props;
  const chart = enabledChart(described);
  const { locale } = useLanguage();
  const { id: boardId = '' } = useParams();
  const store = useAppStore();
  const id = useId().replace(/\W/g, '');
  const host = useRef<HTMLElement | HTMLDivElement>(null);
  const view = useRef<ChartView>(null);
  const { dataset, cube, waiting, problem } = useChartData(chart, board, still);
  const { facts, ready } = useKnownFacts();
  const [stands, setStands] = useState(false);
  const [listed, setListed] = useState(false);
  const isStill = still !== undefined;
  useLayoutEffect(() => {
    const made = new ChartView(host.current!, {
      id,
      still: isStill,
      // In the same task as the input event: React only deals with what is around the drawing.
      move: ({ id: lever }, position, passing) => store.dispatch(leverMoved({ lever, position, passing })),
      press: (reading) => pressedInChart.point(chart.id, reading),
      shown: () => setStands(true),
      ...(isStill ? {} : { painted: (result) => paintedCharts.tell(chart.id, result) }),
    });
    view.current = made;
    return () => {
      made.destroy();
      paintedCharts.forget(chart.id);
    };
  }, [id, isStill, store, chart.id]);

  // A row of the workings points at its mark.
  useEffect(
    () =>
      isStill ? undefined : pointedInWorkings.listen(chart.id, (reading) => view.current?.point(reading)),
    [isStill, chart.id],
  );

  // biome-ignore lint/correctness/useExhaustiveDependencies: once another language is there, all is said anew in it
  useLayoutEffect(() => {
    if (!dataset || !cube || !ready || problem) return;
    const source = { board, chart, dataset, cube };
    const inputAt = (positions: Positions) => ({ ...chartInput(source, positions, facts), viewed });
    view.current!.update(inputAt(still ?? store.getState().positions.now));
    if (still) return;
    let last = store.getState().positions.now;
    return store.subscribe(() => {
      const { now, committed } = store.getState().positions;
      if (now !== last) view.current!.moved(inputAt(now), now !== committed);
      else if (now === committed) view.current!.settled();
      last = now;
    });
  }, [board, chart, dataset, cube, facts, ready, store, still, viewed, problem, locale]);

  useLayoutEffect(() => {
    view.current!.mark({ hidden: problem !== undefined, waiting });
  }, [problem, waiting]);
  if (still) return <div className="sv-miniature" ref={host as React.Ref<HTMLDivElement>} />;
  const words = boardWords(board, dataset);
  const title = chartTitle(chart, words);
  return (
    <figure
      className="sv-chart"
      data-part="chart"
      aria-labelledby={`${id}-title`}
      data-chart={chart.id}
      ref={host}
    >
      <ChartHead
        id={`${id}-title`}
        board={board}
        chart={chart}
        words={words}
        problem={problem}
        loading={!cube && !stands}
        menu={
          stands
            ? {
                title,
                large,
                listed,
                onList() {
                  view.current!.listValues(!listed);
                  setListed(!listed);
                },
                onEnlarge: onEnlarge && (() => onEnlarge(large ? null : chart.id)),
                carried() {
                  const { shown, svg } = view.current!;
                  const at = new URLSearchParams(location.search);
                  const address = pictureAddress({ board: boardId, chart: chart.id, format: 'png' }, at);
                  return shown && { output: shown, svg, title, address };
                },
              }
            : null
        }
      />
    </figure>
  );
});
