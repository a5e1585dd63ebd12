import type { Board } from '@sorvik/core/board/board';
import { type Chart, chartTouchLever } from '@sorvik/core/board/chart';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import type { PickPosition } from '@sorvik/core/levers/pick';
import { positionOf } from '@sorvik/core/levers/positions';
import { chartStages, type StageOutput } from '@sorvik/core/stages/chart-stages';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { type RefObject, useEffect, useId, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useAppStore } from '../app/store';
import { leverMoved } from '../board/positions-slice';
import { measureText } from './measure-text';
import { SvgPainter } from './svg-painter';
import { attachTouches, type TouchTarget } from './touches';
import { useChartData } from './use-cube';

interface Size {
  width: number;
  height: number;
}

/** The inner size of an element, px, as it changes. */
function useSize(ref: RefObject<HTMLElement | null>): Size | null {
  const [size, setSize] = useState<Size | null>(null);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const read = () =>
      setSize((last) => {
        const next = { width: Math.floor(element.clientWidth), height: Math.floor(element.clientHeight) };
        return last && last.width === next.width && last.height === next.height ? last : next;
      });
    read();
    const observer = new ResizeObserver(read);
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return size;
}

interface Props {
  board: Board;
  chart: Chart;
  /** A small still picture at these positions, without words and without answering to touches. */
  still?: Positions;
}

/**
 * A chart on a board. What a lever's move changes is painted straight from the store's own notification, in the same
 * task as the input event: React only deals with what is around the drawing.
 */
export function ChartFigure({ board, chart, still }: Props) {
  const store = useAppStore();
  const id = useId().replace(/\W/g, '');
  const plot = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const caption = useRef<HTMLElement>(null);
  const omitted = useRef<HTMLParagraphElement>(null);
  const shown = useRef<{ output: StageOutput; painter: SvgPainter } | null>(null);
  const size = useSize(plot);
  const stages = useMemo(() => chartStages(), []);
  const { dataset, cube, waiting, problem } = useChartData(chart, board);
  const lever = chartTouchLever(chart, board.levers);
  const pickable = !still && lever !== undefined;
  const words = vocabularyOf(board, dataset);
  const title = chartTitle(chart, words);

  const painter = useRef<SvgPainter>(null);
  useLayoutEffect(() => {
    const made = new SvgPainter(svg.current!, { pickable, id });
    painter.current = made;
    shown.current = null;
    return () => made.stop();
  }, [pickable, id]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new painter (pickable) has everything still to paint
  useLayoutEffect(() => {
    if (!dataset || !cube || !size || size.width < 2 || problem) return;
    const update = () => {
      const output = stages.run({
        board,
        chart,
        dataset,
        cube,
        positions: still ?? store.getState().positions,
        width: size.width,
        height: size.height,
        measure: measureText,
        miniature: still !== undefined,
      });
      painter.current!.paint(output);
      if (caption.current && caption.current.textContent !== output.caption)
        caption.current.textContent = output.caption;
      if (omitted.current) {
        const { omitted: left, band } = output.scene;
        omitted.current.hidden = left === 0;
        omitted.current.textContent = left
          ? `The first ${band.count.toLocaleString('en')} are drawn, ${left.toLocaleString('en')} more are not.`
          : '';
      }
      shown.current = { output, painter: painter.current! };
    };
    update();
    if (still) return;
    let last = store.getState().positions;
    return store.subscribe(() => {
      const { positions } = store.getState();
      if (positions === last) return;
      last = positions;
      update();
    });
  }, [board, chart, dataset, cube, size, stages, store, still, problem, pickable]);

  useEffect(() => {
    if (!pickable) return;
    const element = svg.current!;
    return attachTouches(element, (): TouchTarget | null => {
      const touched = chartTouchLever(chart, board.levers);
      if (!shown.current || !touched) return null;
      return {
        output: shown.current.output,
        lever: touched,
        position: positionOf(touched, store.getState().positions) as PickPosition,
        move: (position) => store.dispatch(leverMoved({ lever: touched.id, position })),
        focus: (index, byKeyboard) => {
          const active = shown.current?.painter.focus(index, byKeyboard);
          if (active) element.setAttribute('aria-activedescendant', active);
          else element.removeAttribute('aria-activedescendant');
        },
      };
    });
  }, [pickable, board, chart, store]);

  const listbox = pickable
    ? ({
        role: 'listbox',
        tabIndex: 0,
        'aria-multiselectable': true,
        'aria-label': `${title}, marks to pick`,
      } as const)
    : ({ role: 'img', 'aria-label': title } as const);
  if (still)
    return (
      <div className="sv-miniature" ref={plot}>
        <svg ref={svg} aria-hidden="true" />
      </div>
    );
  return (
    <figure className="sv-chart" aria-labelledby={`${id}-title`} data-chart={chart.id}>
      <h2 className="sv-chart-title" id={`${id}-title`}>
        {title}
      </h2>
      <div className={waiting ? 'sv-plot is-waiting' : 'sv-plot'} ref={plot} hidden={problem !== undefined}>
        <svg ref={svg} {...listbox} />
      </div>
      {problem && (
        <p className="sv-problem" role="alert">
          {problem}
        </p>
      )}
      {!cube && !problem && !shown.current && <p className="sv-loading">Reading the data ..</p>}
      <p className="sv-omitted" ref={omitted} hidden />
      {!problem && <figcaption aria-live="polite" ref={caption} />}
    </figure>
  );
}
