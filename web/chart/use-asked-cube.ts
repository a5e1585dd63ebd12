import type { DatasetView } from '@sorvik/core/board/api-types';
import { type Board, leverOf } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import type { Cube } from '@sorvik/core/data/cube';
import { fieldOf } from '@sorvik/core/data/dataset';
import { type Kept, keptOf } from '@sorvik/core/data/kept';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { settledPositions } from '@sorvik/core/levers/settled-positions';
import { cubeQuery, type requestLevels } from '@sorvik/core/pipeline/cube-request';
import { rowFilters } from '@sorvik/core/pipeline/row-filters';
import { useEffect, useState } from 'react';
import { api, cubeAt, problemText } from '../app/api';
import { useAppStore } from '../app/store';
import { today } from '../app/today';
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

const nothingYet: Asked = { waiting: true };

/** A lever is dragged through many positions: the database is asked where it rests for so long, ms. */
const rest = 120;
/** Longer addresses are not taken by servers. */
const longestQuery = 12_000;

/**
 * The cubes of a chart whose figures cannot be added up: the database is asked anew when a lever moves that filters
 * it. Until it has answered, what it said before stays.
 */
export function useAskedCube(
  chart: Chart,
  board: Board,
  dataset: DatasetView | undefined,
  /** What to ask for; null while nothing has to be asked. */
  levels: Levels | null,
  still?: Positions,
): Asked {
  const { locale } = useLanguage();
  const store = useAppStore();
  const { facts, ready } = useKnownFacts();
  const [asked, setAsked] = useState<Asked & { levels?: Levels }>(nothingYet);

  useEffect(() => {
    if (!levels || !dataset || !ready) return;
    let gone = false;
    let turn = 0;
    let last: string | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let held: { unsubscribe(): void }[] = [];

    const fetchCube = async (query: string, keep: { unsubscribe(): void }[]): Promise<Cube> => {
      if (query.length > longestQuery) throw { data: { detail: say(locale, 'problem.tooManyPicked') } };
      const request = store.dispatch(api.endpoints.cube.initiate({ dataset: dataset.id, query }));
      keep.push(request);
      return cubeAt(await request.unwrap())!;
    };
    /** What the filters keep now, of the values that there are. */
    const keptNow = (positions: Positions, keep: { unsubscribe(): void }[]): Promise<Kept[]> => {
      const positionOf = settledPositions(board.levers, positions, facts);
      const filters = rowFilters(chart, {
        lever: (id) => leverOf(board, id),
        positionOf,
        today: today(),
        engine: formulaEngine(),
      });
      return Promise.all(
        filters.map(async (filter) => {
          const { field, grain } = filter;
          const domain = { keys: [{ field, grain }], partials: [{ aggregate: 'count' as const }] };
          const { dimensions } = await fetchCube(cubeQuery(domain, dataset.version), keep);
          return keptOf(filter, dimensions[0]!.values, fieldOf(dataset, field)!.type);
        }),
      );
    };
    const ask = async (positions: Positions) => {
      const mine = ++turn;
      const keep: { unsubscribe(): void }[] = [];
      try {
        const kept = await keptNow(positions, keep);
        const key = JSON.stringify(kept);
        if (mine !== turn || key === last) return;
        setAsked((before) => (before.levels === levels ? { ...before, waiting: true } : nothingYet));
        const ask = (of: readonly Kept[]) =>
          Promise.all(levels.map((level) => fetchCube(cubeQuery(level, dataset.version, of), keep)));
        // Earlier periods that are left out are what the first ones kept are compared with.
        const timeless = kept.filter(({ field }) => field !== chart.by.field);
        const compares = chart.compare?.with === 'previous' || chart.compare?.with === 'year';
        const apart = compares && timeless.length > 0 && timeless.length < kept.length;
        const [found, all, untimed] = await Promise.all([
          ask(kept),
          kept.length ? ask([]) : undefined,
          apart ? ask(timeless) : undefined,
        ]);
        if (gone || mine !== turn) return;
        last = key;
        const cube: Cube = {
          ...found[0]!,
          levels: found,
          ...(all ? { all: { ...all[0]!, levels: all } } : {}),
          ...(untimed ? { untimed: { ...untimed[0]!, levels: untimed } } : {}),
        };
        setAsked({ levels, cube, waiting: false });
        // What was asked before is let go once it is no longer shown.
        for (const request of held) request.unsubscribe();
        held = keep;
      } catch (error) {
        if (!gone && mine === turn) setAsked({ levels, waiting: false, problem: problemText(error, locale) });
      }
    };

    let positions = still ?? store.getState().positions.now;
    void ask(positions);
    const stop = still
      ? () => {}
      : store.subscribe(() => {
          const { now } = store.getState().positions;
          if (now === positions) return;
          positions = now;
          clearTimeout(timer);
          timer = setTimeout(() => void ask(positions), rest);
        });
    return () => {
      gone = true;
      clearTimeout(timer);
      stop();
      for (const request of held) request.unsubscribe();
    };
  }, [levels, dataset, board, chart, facts, ready, store, still, locale]);
  // What was found for what the chart was before does not fit it any more.
  return asked.levels === levels ? asked : nothingYet;
}
