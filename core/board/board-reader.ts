import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import { validateSync } from 'class-validator';
import { Board, mostCharts } from './board';
import { Chart } from './chart';
import { migrateBoard } from './migrations';
import { instanceOf, type KindLookup } from './of-kind';
import { isRecord } from './part';
import { type Problem, problemsOf } from './problem';
import { roughProblem, valuesIn } from './rough-check';

export type BoardReading = { ok: true; board: Board } | { ok: false; problems: Problem[] };

const maxDepth = 24;
/** Of documents with more values than this only the first plain mistake is told. */
const fullyTold = 2000;

function tooDeep(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length; depth++) {
    if (depth > maxDepth) return true;
    level = level.flatMap((item) => (typeof item === 'object' && item !== null ? Object.values(item) : []));
  }
  return false;
}

/** Ids are unique among the parts of a board. */
function idProblems(board: Board): Problem[] {
  const problems: Problem[] = [];
  const unique = (items: { id: string }[], at: string) => {
    const seen = new Set<string>();
    items.forEach((item, i) => {
      if (seen.has(item.id))
        problems.push({
          pointer: `${at}/${i}/id`,
          message: tell('boardReader.idIsUsedTwice', { id: item.id }),
        });
      seen.add(item.id);
    });
  };
  unique(board.levers, '/levers');
  unique(board.charts, '/charts');
  unique(board.notes ?? [], '/notes');
  board.charts.forEach((chart, c) => {
    unique(chart.cues, `/charts/${c}/cues`);
    unique(chart.guides, `/charts/${c}/guides`);
  });
  return problems;
}

const strictly = { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true };

/** Checks a document part by part, since a large one takes a while; each step is one chart, or all the rest. */
function* checked(document: Record<string, unknown>, kinds: KindLookup): Generator<void, Problem[]> {
  const { charts } = document;
  const apart = Array.isArray(charts) && charts.every(isRecord);
  const rest = instanceOf(Board, apart ? { ...document, charts: [] } : document, kinds);
  const problems = problemsOf(validateSync(rest, strictly));
  if (!apart) return problems;
  if (charts.length > mostCharts)
    problems.push({ pointer: '/charts', message: tell('boardReader.chartsCanHaveUp', { most: mostCharts }) });
  for (const [i, chart] of charts.slice(0, mostCharts).entries()) {
    yield;
    problems.push(...problemsOf(validateSync(instanceOf(Chart, chart, kinds), strictly), `/charts/${i}`));
  }
  return problems;
}

function* reading(input: unknown, { kinds, rules }: BoardRules): Generator<void, BoardReading> {
  if (typeof input !== 'object' || input === null || Array.isArray(input))
    return { ok: false, problems: [{ pointer: '', message: tell('boardReader.aBoardIsA') }] };
  if (tooDeep(input))
    return { ok: false, problems: [{ pointer: '', message: tell('boardReader.theDocumentIsNested') }] };
  let document: Record<string, unknown>;
  try {
    document = migrateBoard(input as Record<string, unknown>);
  } catch (error) {
    return { ok: false, problems: [{ pointer: '/version', message: (error as Error).message }] };
  }
  if (valuesIn(document, fullyTold) > fullyTold) {
    const problem = roughProblem(Board, document, kinds);
    if (problem) return { ok: false, problems: [problem] };
  }
  const problems = yield* checked(document, kinds);
  const board = document as unknown as Board;
  if (!problems.length) problems.push(...idProblems(board), ...rules(board));
  return problems.length ? { ok: false, problems } : { ok: true, board };
}

/** What a reader of documents is told of the kinds: the document itself knows none. */
export interface BoardRules {
  kinds: KindLookup;
  /** What is wrong with a board of which each part is right. */
  rules(board: Board): Problem[];
}

export interface BoardReader {
  /**
   * Reads a board document of any version from untrusted JSON. Unknown properties are refused, so a misspelt word is
   * never silently without effect.
   */
  readBoard(input: unknown): BoardReading;
  /** The same with pauses, in which others get their turn. */
  readBoardInTurns(input: unknown, pause: () => Promise<void>): Promise<BoardReading>;
}

/** A reader of boards whose parts are of some kinds. */
export const boardReader = (rules: BoardRules): BoardReader => ({
  readBoard(input) {
    const steps = reading(input, rules);
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
    }
  },
  async readBoardInTurns(input, pause) {
    const steps = reading(input, rules);
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      await pause();
    }
  },
});
