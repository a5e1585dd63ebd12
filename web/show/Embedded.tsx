import type { Board } from '@sorvik/core/board/board';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { type PlainPosition, plainPosition, positionTexts } from '@sorvik/core/levers/plain-position';
import { positionsFromQuery } from '@sorvik/core/levers/positions';
import type { Lever } from '@sorvik/core/levers/registry';
import { type Facts, settledPosition } from '@sorvik/core/levers/settled-positions';
import { litMarks } from '@sorvik/core/pipeline/plain-marks';
import { useEffect, useRef } from 'react';
import { useAppStore } from '../app/store';
import { wantGround } from '../app/theme';
import { positionsMoved } from '../board/positions-slice';
import { paintedCharts } from '../chart/painted-charts';
import { useKnownFacts } from '../levers/facts-context';
import { around } from './around';
import type { Heard, ParentPage } from './parent-page';

/** Where the levers that a viewer sees stand, for code of a page. */
const plainPositions = (levers: readonly Lever[], at: Positions, facts: Facts) =>
  Object.fromEntries(
    levers
      .filter(({ hidden }) => !hidden)
      .map((lever) => [lever.id, plainPosition(lever, settledPosition(lever, at, facts).position)]),
  );

/** What code of a page says of levers, in the words of an address. What it cannot be is left as it is. */
function saidPositions(levers: readonly Lever[], said: Readonly<Record<string, unknown>>): Positions {
  const query = new URLSearchParams();
  for (const [id, position] of Object.entries(said))
    for (const text of positionTexts(position as PlainPosition)) query.append(id, text);
  return positionsFromQuery(levers, query).positions;
}

/** Speaks for a board in a frame with the page around it (`docs/embedding.md` says what each message is). It shows nothing. */
export function Embedded({ board, page = around! }: { board: Board; page?: ParentPage }) {
  const store = useAppStore();
  const { facts, ready } = useKnownFacts();
  const known = useRef(facts);
  known.current = facts;

  useEffect(() => {
    if (!ready) return;
    const { levers } = board;
    const positions = () => plainPositions(levers, store.getState().positions.now, known.current);
    const lit = new Map<string, string>();
    let last = store.getState().positions.now;
    let unheard: () => void = () => {};
    const begin = () => {
      page.tell('ready', {
        title: board.title,
        levers: levers.filter(({ hidden }) => !hidden).map(({ id, kind, name }) => ({ id, kind, name })),
        positions: positions(),
      });
      page.tell('height', { height: heightOf(main) });
      lit.clear();
      unheard();
      unheard = paintedCharts.listen((chart, result) => {
        const marks = litMarks(result);
        const said = JSON.stringify(marks.map(({ category, series }) => [category, series]));
        if (lit.get(chart) === said) return;
        lit.set(chart, said);
        page.tell('lit', { chart, lit: marks });
      });
    };
    const hear = (heard: Heard) => {
      if (heard.type === 'hello') begin();
      if (heard.type === 'theme') wantGround(heard.theme);
      if (heard.type !== 'move') return;
      last = { ...store.getState().positions.committed, ...saidPositions(levers, heard.positions) };
      store.dispatch(positionsMoved(last));
    };
    const main = document.querySelector('main')!;
    begin();
    const unlisten = page.listen(hear);
    const sizes = new ResizeObserver(() => page.tell('height', { height: heightOf(main) }));
    sizes.observe(main);
    // What the page itself has moved it is not told of.
    const unsubscribe = store.subscribe(() => {
      const { now, committed } = store.getState().positions;
      if (now === last) return;
      last = now;
      page.tell('move', { positions: positions(), passing: now !== committed });
    });
    return () => {
      unsubscribe();
      unheard();
      sizes.disconnect();
      unlisten();
    };
  }, [board, page, ready, store]);
  return null;
}

const heightOf = (main: Element) => Math.ceil(main.getBoundingClientRect().height);

/** Tells the page around a frame why there is no board in it. */
export function EmbeddedProblem({ text, page = around! }: { text: string; page?: ParentPage }) {
  useEffect(() => {
    const tell = () => {
      page.tell('problem', { text });
      page.tell('height', { height: heightOf(document.querySelector('main')!) });
    };
    tell();
    return page.listen(({ type }) => type === 'hello' && tell());
  }, [page, text]);
  return null;
}
