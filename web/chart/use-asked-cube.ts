import type { DatasetView } from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import type { Cube } from '@sorvik/core/data/cube';
import { today } from '@sorvik/core/data/today';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { settledPositions } from '@sorvik/core/levers/settled-positions';
import { askedCube, askedRows } from '@sorvik/core/pipeline/asked-cube';
import type { requestLevels } from '@sorvik/core/pipeline/cube-request';
import { useEffect, useState } from 'react';
import { api, cubeAt, isAborted, isAway, isOutdated, problemText, untilAskedAgain } from '../app/api';
import { useAppStore } from '../app/store';
import { formulaEngine } from '../board/formula-engine';
import { useKnownFacts } from '../levers/facts-context';
import { useLanguage } from '../ui/language';
import { say } from '../ui/say';

type Levels = ReturnType<typeof requestLevels>;

interface Asked {
  cube?: Cube;
  waiting: boolean;
  problem?: string;
}

interface Request {
  abort(): void;
  unsubscribe(): void;
}

const nothingYet: Asked = { waiting: true };

/** A question goes on for so long while a newer one waits, ms; then it is broken off, down to the database. */
const patience = 150;
/** Longer addresses are not taken by servers. */
const longestQuery = 12_000;

/**
 * The cubes of a chart that asks per move, as its figures cannot be added up or are too many: the database is asked anew
 * when a lever moves that filters it. Until it has answered, what it said before stays. One question is under way at a
 * time; of those that come meanwhile the newest is next.
 */
export function useAskedCube(
  chart: Chart,
  board: Board,
  dataset: DatasetView | undefined,
  /** What to ask for; null while nothing has to be asked. */
  levels: Levels | null,
  /** Its axis is too long to be fetched: what its window has in view is asked for. */
  windowed: boolean,
  still?: Positions,
): Asked {
  const { locale } = useLanguage();
  const store = useAppStore();
  const { facts, ready } = useKnownFacts();
  const [asked, setAsked] = useState<Asked & { levels?: Levels }>(nothingYet);

  useEffect(() => {
    if (!levels || !dataset || !ready) return;
    let gone = false;
    let last: string | null = null;
    let next: Positions | null = null;
    let underWay: Request[] | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let later: ReturnType<typeof setTimeout> | undefined;
    let held: Request[] = [];

    const fetchCube = async (query: string, keep: Request[]): Promise<Cube> => {
      if (query.length > longestQuery) throw { data: { detail: say(locale, 'problem.tooManyPicked') } };
      const request = store.dispatch(api.endpoints.cube.initiate({ dataset: dataset.id, query }));
      keep.push(request);
      try {
        return cubeAt(await request.unwrap())!;
      } catch (error) {
        // Another chart asked the same, and has broken it off.
        if (isAborted(error) && keep === underWay && !gone) return fetchCube(query, keep);
        throw error;
      }
    };
    const ask = async (positions: Positions) => {
      const keep: Request[] = [];
      underWay = keep;
      try {
        const askCube = (query: string) => fetchCube(query, keep);
        const rows = await askedRows(
          {
            ...{ chart, board, dataset, facts, today: today(), engine: formulaEngine() },
            positionOf: settledPositions(board.levers, positions, facts),
          },
          windowed,
          askCube,
        );
        const key = JSON.stringify(rows);
        if (underWay !== keep) return;
        if (key === last) {
          // It is back where the last answer was: what was on its way meanwhile is not waited for.
          setAsked((before) => ({ ...before, waiting: false }));
          return;
        }
        setAsked((before) => (before.levels === levels ? { ...before, waiting: true } : nothingYet));
        const cube = await askedCube(chart, dataset.version, levels, rows, askCube);
        if (gone || underWay !== keep) return;
        last = key;
        setAsked({ levels, cube, waiting: false });
        // What was asked before is let go once it is no longer shown.
        for (const request of held) request.unsubscribe();
        held = keep;
      } catch (error) {
        // What it is now is on its way: until then what was answered stays.
        if (gone || underWay !== keep || isOutdated(error)) return;
        last = null;
        setAsked({ levels, waiting: false, problem: problemText(error, locale) });
        if (isAway(error)) later = setTimeout(() => moveTo(positions), untilAskedAgain);
      } finally {
        if (held !== keep) for (const request of keep) request.unsubscribe();
      }
    };

    const askNext = async () => {
      while (next && !gone) {
        const now = next;
        next = null;
        await ask(now);
        clearTimeout(timer);
        timer = undefined;
      }
      underWay = null;
    };
    /** Breaks off what is under way. */
    const breakOff = () => {
      const requests = underWay ?? [];
      underWay = [];
      for (const request of requests) request.abort();
    };
    const moveTo = (now: Positions) => {
      clearTimeout(later);
      next = now;
      if (!underWay) void askNext();
      else timer ??= setTimeout(breakOff, patience);
    };

    let positions = still ?? store.getState().positions.now;
    moveTo(positions);
    const stop = still
      ? () => {}
      : store.subscribe(() => {
          const { now } = store.getState().positions;
          if (now === positions) return;
          positions = now;
          moveTo(now);
        });
    return () => {
      gone = true;
      clearTimeout(timer);
      clearTimeout(later);
      stop();
      breakOff();
      for (const request of held) request.unsubscribe();
    };
  }, [levels, windowed, dataset, board, chart, facts, ready, store, still, locale]);
  // What was found for what the chart was before does not fit it any more.
  return asked.levels === levels ? asked : nothingYet;
}
