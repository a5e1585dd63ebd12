import { type Board, leverOf } from '@sorvik/core/board/board';
import type { Chart, Gesture } from '@sorvik/core/board/chart';
import { heardChart } from '@sorvik/core/board/heard';
import { conditionKinds } from '@sorvik/core/conditions/registry';
import { giftOf } from '@sorvik/core/levers/gift';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { kindOf } from '@sorvik/core/levers/registry';
import { standOf } from '@sorvik/core/levers/standing';
import { brushLever, legendLever, touchLever } from '@sorvik/core/pipeline/chart-rules';
import { chartStages } from '@sorvik/core/pipeline/chart-stages';
import { stateCode } from '@sorvik/core/pipeline/emphasise';
import { shapeKinds } from '@sorvik/core/pipeline/shapes/registry';
import type { StageOutput } from '@sorvik/core/pipeline/stage';
import { beyondText } from '@sorvik/core/text/beyond-text';
import { chartCaption, chartLegend, chartSubtitle } from '@sorvik/core/text/chart-words';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { formulaKit } from '@sorvik/formula/provided';
import {
  lazy,
  memo,
  Suspense,
  useCallback,
  useEffect,
  useId,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { useAppStore } from '../app/store';
import { today } from '../app/today';
import { useKnownFacts } from '../levers/facts-context';
import { whenIdle } from '../ui/when-idle';
import { ChartTitle } from './ChartTitle';
import { Caption } from './caption';
import { Legend } from './legend';
import { holdOf } from './lever-hold';
import { measureText } from './measure-text';
import type { PlotHandles } from './plot-handles';
import { pointedInWorkings, pressedInChart } from './pointed-mark';
import { SvgPainter } from './svg-painter';
import { Tip } from './tip';
import { attachTouches, type TouchTarget } from './touches';
import { useChartData } from './use-cube';
import { useSize } from './use-size';

/** Fetched when the chart stands: nothing of it is needed to see one. */
const ChartMenu = lazy(() => import('./ChartMenu').then((module) => ({ default: module.ChartMenu })));

/** Of marks that are not drawn, how many are lit: nobody would see it. */
function leftOutLit({ scene, emphasis }: StageOutput): string {
  let lit = 0;
  for (let i = 0; i < emphasis.state.length; i++)
    if (
      emphasis.state[i] === stateCode.lit &&
      !(scene.marks.x[i]! + scene.marks.y[i]! > Number.NEGATIVE_INFINITY)
    )
      lit++;
  return lit ? `${lit.toLocaleString('en')} of those ${lit === 1 ? 'is' : 'are'} lit.` : '';
}

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

/**
 * A chart on a board. What a lever's move changes is painted straight from the store's own notification, in the same
 * task as the input event: React only deals with what is around the drawing.
 */
export const ChartFigure = memo(function ChartFigure({
  board,
  chart: described,
  still,
  viewed = false,
  large = false,
  onEnlarge,
}: Props) {
  const chart = heardChart(described);
  const store = useAppStore();
  const id = useId().replace(/\W/g, '');
  const plot = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const layer = useRef<HTMLDivElement>(null);
  const caption = useRef<Caption>(null);
  const subtitle = useRef<Caption>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const tip = useRef<Tip>(null);
  const key = useRef<HTMLUListElement>(null);
  const legend = useRef<Legend>(null);
  /** The mark under the pointer, and the one the keyboard is on. */
  const on = useRef({ pointer: -1, keyboard: -1, series: -1 });
  const updateNow = useRef<(passing: boolean) => void>(() => {});
  const omitted = useRef<HTMLParagraphElement>(null);
  const shown = useRef<{ output: StageOutput; painter: SvgPainter } | null>(null);
  const size = useSize(plot);
  const inSight = useRef(true);
  const late = useRef(false);
  const stages = useMemo(() => chartStages(), []);
  const { dataset, cube, waiting, problem } = useChartData(chart, board, still);
  const { facts, ready } = useKnownFacts();
  const [stands, setStands] = useState(false);
  // What is needed to touch a chart is fetched when it is there to be seen, and not before.
  useEffect(() => (still || stands || !shown.current ? undefined : whenIdle(() => setStands(true))));
  const touchable = useMemo(
    () => (viewed ? board.levers.filter((lever) => !lever.hidden) : board.levers),
    [board.levers, viewed],
  );
  const clicked = touchLever(chart, 'click', touchable);
  const touched = clicked ?? touchLever(chart, 'drag', touchable) ?? touchLever(chart, 'hover', touchable);
  const pickable = !still && touched !== undefined;
  const pointingLights = chart.cues.some(
    ({ condition, off }) => !off && conditionKinds.get(condition.kind).readsFocus?.(condition),
  );
  const several = touched !== undefined && kindOf(touched).touch?.several === true;
  const words = vocabularyOf(board, dataset);
  const title = chartTitle(chart, words);

  const painter = useRef<SvgPainter>(null);
  const handles = useRef<PlotHandles>(null);
  useLayoutEffect(() => {
    const made = new SvgPainter(svg.current!, { pickable, id });
    painter.current = made;
    shown.current = null;
    return () => made.stop();
  }, [pickable, id]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new painter (pickable) has everything still to paint
  useLayoutEffect(() => {
    if (!dataset || !cube || !ready || !size || size.width < 2 || problem) return;
    const update = (passing = false) => {
      const began = performance.now();
      const output = stages.run({
        board,
        chart,
        dataset,
        cube,
        stand: standOf(board.levers, still ?? store.getState().positions.now, facts),
        facts,
        today: today(),
        engine: formulaKit(),
        focus: on.current.keyboard >= 0 ? on.current.keyboard : on.current.pointer,
        focusSeries: on.current.series,
        width: size.width,
        height: size.height,
        measure: measureText,
        miniature: still !== undefined,
      });
      const ready = performance.now();
      painter.current!.paint(output);
      if (!shown.current && !still) {
        performance.measure('chart painted', { start: ready });
        performance.measure('chart first paint', { start: began });
      }
      caption.current?.say(() => chartCaption(output), passing);
      subtitle.current?.say(() => chartSubtitle(output), passing);
      legend.current?.show(() => chartLegend(output), output.tone, passing);
      if (omitted.current) {
        const { scene, readings } = output;
        const text = [
          scene.omitted ? shapeKinds.get(scene.marks.shape).leftOut(scene, readings) : '',
          scene.omitted ? leftOutLit(output) : '',
          beyondText(scene, readings.length),
        ]
          .filter(Boolean)
          .join(' ');
        omitted.current.hidden = !text;
        omitted.current.textContent = text;
      }
      shown.current = { output, painter: painter.current! };
      tip.current?.refresh();
      if (layer.current) {
        layer.current.style.width = `${output.scene.width}px`;
        layer.current.style.height = `${output.scene.height}px`;
      }
      handles.current?.paint(output);
    };
    updateNow.current = update;
    update();
    if (still) return;
    let last = store.getState().positions.now;
    let callOff = () => {};
    const catchUp = () => {
      if (!late.current) return;
      late.current = false;
      update();
    };
    const seeing = new IntersectionObserver(([entry]) => {
      inSight.current = entry?.isIntersecting ?? true;
      if (inSight.current) catchUp();
    });
    seeing.observe(plot.current!);
    const unsubscribe = store.subscribe(() => {
      const { now, committed } = store.getState().positions;
      if (now === last) {
        // The drag has ended where it was: what is said in words catches up.
        if (now === committed && shown.current) {
          const { output } = shown.current;
          caption.current?.say(() => chartCaption(output), false);
          subtitle.current?.say(() => chartSubtitle(output), false);
          legend.current?.show(() => chartLegend(output), output.tone, false);
        }
        return;
      }
      last = now;
      const passing = now !== committed;
      if (inSight.current) {
        update(passing);
        return;
      }
      // A chart that is scrolled out of sight follows when the move is over and nothing is more urgent, or when it is seen.
      late.current = true;
      callOff();
      if (!passing) callOff = whenIdle(catchUp);
    });
    return () => {
      callOff();
      seeing.disconnect();
      unsubscribe();
    };
  }, [board, chart, dataset, cube, facts, ready, size, stages, store, still, problem, pickable]);

  useEffect(() => {
    if (still || !stands) return;
    let over = false;
    const begin = ({ PlotHandles }: typeof import('./plot-handles')) => {
      if (over || !layer.current) return;
      handles.current = new PlotHandles(layer.current, () => {
        if (!shown.current) return null;
        const hold = (id: string) => {
          const lever = leverOf(board, id);
          return lever && touchable.includes(lever) ? holdOf(lever, store, facts) : null;
        };
        return { output: shown.current.output, by: chart.by, hold };
      });
      if (shown.current) handles.current.paint(shown.current.output);
    };
    // While the server is away the chart can still be read, and its levers moved beside it.
    import('./plot-handles').then(begin, () => {});
    return () => {
      over = true;
    };
  }, [still, stands, board, chart, store, facts, touchable]);

  useEffect(() => {
    if (still || !sheet.current) return;
    const made = new Tip(
      sheet.current,
      (index) => shown.current?.painter.markAt(index),
      () => shown.current?.output,
    );
    tip.current = made;
    return () => made.hide();
  }, [still]);

  const pointSeries = useCallback(
    (series: number) => {
      on.current.series = series;
      if (pointingLights) updateNow.current(true);
    },
    [pointingLights],
  );
  useEffect(() => {
    if (still || !key.current) return;
    const made = new Legend(key.current, {
      point: pointSeries,
      pick(series) {
        const lever = legendLever(chart, touchable);
        const output = shown.current?.output;
        if (!lever || !output) return;
        const { readings } = output;
        holdOf(lever, store, facts).put(giftOf(lever, chart, readings, readings.starts[series]!), 'toggle');
      },
    });
    legend.current = made;
    if (shown.current) {
      const { output } = shown.current;
      made.show(() => chartLegend(output), output.tone, false);
    }
    return () => made.stop();
  }, [still, chart, store, facts, touchable, pointSeries]);

  // A row of the workings points at its mark.
  useEffect(() => {
    if (still) return;
    return pointedInWorkings.listen(chart.id, (reading) => {
      on.current.keyboard = reading;
      tip.current?.show(reading, true);
      if (pointingLights) updateNow.current(true);
      shown.current?.painter.focus(reading, true);
    });
  }, [still, chart.id, pointingLights]);

  useEffect(() => {
    if (still) return;
    const element = svg.current!;
    const leverOfGesture = (gesture: Gesture) => {
      const lever = touchLever(chart, gesture, touchable);
      return lever ? holdOf(lever, store, facts) : null;
    };
    const named = legendLever(chart, touchable);
    return attachTouches(element, (): TouchTarget | null => {
      if (!shown.current) return null;
      return {
        output: shown.current.output,
        by: chart.by,
        split: chart.split,
        click: leverOfGesture('click'),
        hover: leverOfGesture('hover'),
        drag: leverOfGesture('drag'),
        legend: named ? holdOf(named, store, facts) : null,
        brushes: brushLever(chart, touchable) !== undefined,
        point: (index) => {
          on.current.pointer = index;
          tip.current?.show(index, false);
          // The ring around a point goes when the pointer does.
          if (index < 0 && on.current.keyboard < 0) shown.current?.painter.focus(-1, false);
          if (pointingLights) updateNow.current(true);
        },
        pointSeries,
        focus: (index, byKeyboard) => {
          const { judged, length } = shown.current?.output.readings ?? { length: 0 };
          if (index >= 0) pressedInChart.point(chart.id, index % (judged?.length || length || 1));
          on.current.keyboard = byKeyboard ? index : -1;
          tip.current?.show(byKeyboard ? index : on.current.pointer, byKeyboard);
          if (pointingLights) updateNow.current(true);
          const active = shown.current?.painter.focus(index, byKeyboard);
          if (active && pickable) element.setAttribute('aria-activedescendant', active);
          else element.removeAttribute('aria-activedescendant');
        },
      };
    });
  }, [still, pickable, pointingLights, pointSeries, chart, store, facts, touchable]);

  const listbox = pickable
    ? ({
        role: 'listbox',
        tabIndex: 0,
        ...(several ? { 'aria-multiselectable': true } : {}),
        'aria-label': `${title}, marks to pick`,
      } as const)
    : ({ role: 'img', 'aria-label': title, ...(still ? {} : { tabIndex: 0 }) } as const);
  if (still)
    return (
      <div className="sv-miniature" ref={plot}>
        <svg ref={svg} aria-hidden="true" />
      </div>
    );
  return (
    <figure
      className="sv-chart"
      aria-labelledby={`${id}-title`}
      data-chart={chart.id}
      data-legend={chart.legend ?? 'above'}
    >
      {stands && (
        <Suspense fallback={null}>
          <ChartMenu
            title={title}
            large={large}
            onEnlarge={onEnlarge && (() => onEnlarge(large ? null : chart.id))}
            carried={() =>
              shown.current
                ? { output: shown.current.output, svg: svg.current!, title, dataset, chart }
                : null
            }
          />
        </Suspense>
      )}
      <h2 className="sv-chart-title" id={`${id}-title`}>
        <ChartTitle board={board} chart={chart} words={words} />
      </h2>
      {chart.subtitle !== undefined && (
        <p
          className="sv-chart-subtitle"
          ref={(element) => {
            subtitle.current = element && new Caption(element);
            const now = shown.current?.output;
            if (element && now) subtitle.current?.say(() => chartSubtitle(now), false);
          }}
        />
      )}
      <ul className="sv-legend" ref={key} />
      <div className={waiting ? 'sv-plot is-waiting' : 'sv-plot'} ref={plot} hidden={problem !== undefined}>
        <svg ref={svg} {...listbox} />
        <div className="sv-handles" ref={layer} />
      </div>
      {problem && (
        <p className="sv-problem" role="alert">
          {problem}
        </p>
      )}
      {!cube && !problem && !shown.current && <p className="sv-loading">Reading the data ..</p>}
      <div className="sv-tip" ref={sheet} hidden>
        <strong />
        <span />
        <p />
      </div>
      <p className="sv-omitted" ref={omitted} hidden />
      {!problem && (
        <figcaption
          aria-live="polite"
          ref={(element) => {
            caption.current = element && new Caption(element);
          }}
        />
      )}
    </figure>
  );
});
