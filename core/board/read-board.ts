import 'reflect-metadata/lite';
import { plainToInstance } from 'class-transformer';
import { type ValidationError, validateSync } from 'class-validator';
import { abilityText, leverCan } from '../levers/abilities';
import { Board, mostCharts } from './board';
import { Chart } from './chart';
import { leverUses } from './lever-uses';
import { migrateBoard } from './migrations';
import { isRecord } from './part';
import { roughProblem, valuesIn } from './rough-check';

/** One thing wrong with a document: where (a JSON Pointer) and what to do about it. */
export interface Problem {
  pointer: string;
  message: string;
}

export type BoardReading = { ok: true; board: Board } | { ok: false; problems: Problem[] };

const maxDepth = 24;
/** Of documents with more values than this only the first plain mistake is told. */
const fullyTold = 2000;
const escapeToken = (token: string) => token.replace(/~/g, '~0').replace(/\//g, '~1');

/** Flattens class-validator's tree into pointers and messages. */
export function problemsOf(errors: ValidationError[], at = ''): Problem[] {
  return errors.flatMap((error) => {
    const pointer = `${at}/${escapeToken(error.property ?? '')}`;
    const own = Object.values(error.constraints ?? {}).map((message) => ({ pointer, message }));
    return [...own, ...problemsOf(error.children ?? [], pointer)];
  });
}

function tooDeep(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length; depth++) {
    if (depth > maxDepth) return true;
    level = level.flatMap((item) => (typeof item === 'object' && item !== null ? Object.values(item) : []));
  }
  return false;
}

/** Ids are unique, and every lever that is named exists and can do what it is named for. */
function referenceProblems(board: Board): Problem[] {
  const problems: Problem[] = [];
  const unique = (items: { id: string }[], at: string) => {
    const seen = new Set<string>();
    items.forEach((item, i) => {
      if (seen.has(item.id))
        problems.push({
          pointer: `${at}/${i}/id`,
          message: `id "${item.id}" is used twice; give each its own`,
        });
      seen.add(item.id);
    });
  };
  unique(board.levers, '/levers');
  unique(board.charts, '/charts');
  unique(board.notes ?? [], '/notes');
  const levers = new Map(board.levers.map((lever) => [lever.id, lever]));
  board.charts.forEach((chart, c) => {
    unique(chart.cues, `/charts/${c}/cues`);
    unique(chart.guides, `/charts/${c}/guides`);
    for (const use of leverUses(chart)) {
      const lever = levers.get(use.lever);
      const pointer = `/charts/${c}${use.pointer}`;
      if (!lever) {
        // Braces in a title that name no lever are just text, and of a formula the sentence says it.
        if (use.how !== 'titles' && !use.loose)
          problems.push({ pointer, message: `there is no lever "${use.lever}" on this board` });
      } else if (use.ability && !leverCan(lever, use.ability))
        problems.push({
          pointer,
          message: `"${use.lever}" cannot stand here: this needs a lever that ${abilityText(use.ability)}`,
        });
    }
  });
  return problems;
}

const strictly = { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true };

/** Checks a document part by part, since a large one takes a while; each step is one chart, or all the rest. */
function* checked(document: Record<string, unknown>): Generator<void, Problem[]> {
  const { charts } = document;
  const apart = Array.isArray(charts) && charts.every(isRecord);
  const rest = plainToInstance(Board, apart ? { ...document, charts: [] } : document);
  const problems = problemsOf(validateSync(rest, strictly));
  if (!apart) return problems;
  if (charts.length > mostCharts)
    problems.push({ pointer: '/charts', message: `charts can have up to ${mostCharts} items` });
  for (const [i, chart] of charts.slice(0, mostCharts).entries()) {
    yield;
    problems.push(...problemsOf(validateSync(plainToInstance(Chart, chart), strictly), `/charts/${i}`));
  }
  return problems;
}

function* reading(input: unknown): Generator<void, BoardReading> {
  if (typeof input !== 'object' || input === null || Array.isArray(input))
    return { ok: false, problems: [{ pointer: '', message: 'a board is a JSON object' }] };
  if (tooDeep(input))
    return { ok: false, problems: [{ pointer: '', message: 'the document is nested too deeply' }] };
  let document: Record<string, unknown>;
  try {
    document = migrateBoard(input as Record<string, unknown>);
  } catch (error) {
    return { ok: false, problems: [{ pointer: '/version', message: (error as Error).message }] };
  }
  if (valuesIn(document, fullyTold) > fullyTold) {
    const problem = roughProblem(Board, document);
    if (problem) return { ok: false, problems: [problem] };
  }
  const problems = yield* checked(document);
  if (!problems.length) problems.push(...referenceProblems(document as unknown as Board));
  return problems.length ? { ok: false, problems } : { ok: true, board: document as unknown as Board };
}

/**
 * Reads a board document of any version from untrusted JSON. Unknown properties are refused, so a misspelt word is
 * never silently without effect.
 */
export function readBoard(input: unknown): BoardReading {
  const steps = reading(input);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** The same with pauses, in which others get their turn. */
export async function readBoardInTurns(input: unknown, pause: () => Promise<void>): Promise<BoardReading> {
  const steps = reading(input);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    await pause();
  }
}
