import type { Board } from '@sorvik/core/board/board';
import { kindOf } from '@sorvik/core/levers/registry';
import { settledPosition } from '@sorvik/core/levers/settled-positions';
import { english } from '@sorvik/core/messages/locale';
import type { Doubt } from '@sorvik/core/text/doubts';
import { type Wire, wiresOf } from '@sorvik/core/text/wiring';
import { chartTitle } from '@sorvik/core/words/measure-text';
import type { Vocabulary } from '@sorvik/core/words/vocabulary';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useAppSelector } from '../app/store';
import { ChartFigure } from '../chart/ChartFigure';
import { useKnownFacts } from '../levers/facts-context';
import { tell } from '../ui/tell';

interface Props {
  board: Board;
  wordsOf(dataset: string): Vocabulary;
  doubts: readonly Doubt[];
  onLever(id: string): void;
  onChart(id: string): void;
}

/** All that one lever does to one chart: a line. */
interface Line {
  lever: string;
  chart: string;
  text: string;
  off: boolean;
}

/** Where a line leaves its lever and comes to its chart, px from the corner of the picture. */
interface Ends {
  from: { x: number; y: number };
  to: { x: number; y: number };
}

const linesOf = (board: Board, wordsOf: Props['wordsOf']): Line[] =>
  board.charts.flatMap((chart) =>
    board.levers.flatMap((lever) => {
      const wires: Wire[] = wiresOf(board, chart.id, lever.id, wordsOf(chart.dataset));
      if (!wires.length) return [];
      const off = wires.every((wire) => wire.off);
      return [
        {
          lever: lever.id,
          chart: chart.id,
          text: [...new Set(wires.map(({ text }) => text))].join(', '),
          off,
        },
      ];
    }),
  );

const path = ({ from, to }: Ends): string => {
  const bend = (to.x - from.x) / 2;
  return `M${from.x} ${from.y}C${from.x + bend} ${from.y} ${to.x - bend} ${to.y} ${to.x} ${to.y}`;
};

/** Spreads the ends of lines over the edge of a card, in the order of what they lead to. */
const placeOn = (box: DOMRect, k: number, of: number) => box.top + (box.height * (k + 1)) / (of + 1);

/** The wiring drawn: levers at the left, charts as they are now at the right, and a line for what one does to the other. */
export function WiringPicture({ board, wordsOf, doubts, onLever, onChart }: Props) {
  const { facts } = useKnownFacts();
  const now = useAppSelector((state) => state.positions.committed);
  const lines = useMemo(() => linesOf(board, wordsOf), [board, wordsOf]);
  const [pointed, setPointed] = useState<{ lever?: string; chart?: string } | null>(null);
  const [ends, setEnds] = useState<Ends[]>([]);
  const root = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const element = root.current!;
    const measure = () => {
      const corner = element.getBoundingClientRect();
      const boxOf = (attribute: string, id: string) =>
        element.querySelector(`[${attribute}="${CSS.escape(id)}"]`)!.getBoundingClientRect();
      setEnds(
        lines.map((line) => {
          const ofLever = lines.filter(({ lever }) => lever === line.lever);
          const ofChart = lines.filter(({ chart }) => chart === line.chart);
          const [lever, chart] = [boxOf('data-from', line.lever), boxOf('data-to', line.chart)];
          return {
            from: {
              x: lever.right - corner.left,
              y: placeOn(lever, ofLever.indexOf(line), ofLever.length) - corner.top,
            },
            to: {
              x: chart.left - corner.left,
              y: placeOn(chart, ofChart.indexOf(line), ofChart.length) - corner.top,
            },
          };
        }),
      );
    };
    const sizes = new ResizeObserver(measure);
    sizes.observe(element);
    for (const card of element.querySelectorAll('[data-from], [data-to]')) sizes.observe(card);
    return () => sizes.disconnect();
  }, [lines]);
  const isOn = (line: Line) =>
    pointed !== null && (pointed.lever === line.lever || pointed.chart === line.chart);
  const card = (of: { lever: string } | { chart: string }) => ({
    onPointerEnter: () => setPointed(of),
    onPointerLeave: () => setPointed(null),
    onFocus: () => setPointed(of),
    onBlur: () => setPointed(null),
  });
  const problems = (of: Pick<Doubt, 'lever' | 'chart'>) => (
    <>
      {doubts
        .filter(({ lever, chart }) => (of.lever ? lever === of.lever : chart === of.chart))
        .map(({ text }) => (
          <small key={text} className="sv-problem">
            {text}
          </small>
        ))}
    </>
  );
  return (
    <div className={pointed ? 'sv-wires is-pointed' : 'sv-wires'} data-part="wires" ref={root}>
      <svg aria-hidden="true">
        {lines.map((line, i) => {
          const at = ends[i];
          return (
            at && (
              <g
                key={`${line.lever} ${line.chart}`}
                className={isOn(line) ? 'is-on' : ''}
                data-off={line.off ? 'yes' : undefined}
              >
                <path d={path(at)} />
                <circle cx={at.to.x} cy={at.to.y} r={3.5} />
                <text x={at.to.x - 9} y={at.to.y - 5}>
                  {line.off ? tell('bench.wiringPicture.textOff', { text: line.text }) : line.text}
                </text>
              </g>
            )
          );
        })}
      </svg>
      <div className="sv-wires-levers">
        {board.levers.map((lever) => (
          <div key={lever.id} data-from={lever.id} className="sv-wires-card">
            <button type="button" {...card({ lever: lever.id })} onClick={() => onLever(lever.id)}>
              <strong>{lever.name}</strong>
              <span>
                {kindOf(lever).summary(
                  lever,
                  settledPosition(lever, now, facts).position,
                  facts[lever.id],
                  english,
                )}
              </span>
            </button>
            {problems({ lever: lever.id })}
          </div>
        ))}
      </div>
      <div className="sv-wires-charts">
        {board.charts.map((chart) => (
          <div key={chart.id} data-to={chart.id} className="sv-wires-card">
            <button type="button" {...card({ chart: chart.id })} onClick={() => onChart(chart.id)}>
              <strong>{chartTitle(chart, wordsOf(chart.dataset))}</strong>
              <ChartFigure board={board} chart={chart} still={now} />
            </button>
            {problems({ chart: chart.id })}
          </div>
        ))}
      </div>
    </div>
  );
}
