import type { Board } from '@sorvik/core/board/board';
import { datasetsOf, leverOf } from '@sorvik/core/board/board';
import { enabledChart } from '@sorvik/core/board/enabled';
import type { Cube } from '@sorvik/core/data/cube';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import { today } from '@sorvik/core/data/today';
import type { Positions } from '@sorvik/core/levers/lever-kind';
import { positionsFromQuery } from '@sorvik/core/levers/positions';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { type Facts, settledPosition, settledPositions } from '@sorvik/core/levers/settled-positions';
import type { Locale } from '@sorvik/core/messages/locale';
import { chartCube } from '@sorvik/core/pipeline/chart-cube';
import { leverFacts } from '@sorvik/core/pipeline/lever-facts';
import { readsFormulas } from '@sorvik/core/pipeline/reads-formulas';
import type { FormulaEngine } from '@sorvik/formula/engine';
import type { ChartInput } from '@sorvik/view/chart-view';
import { type BoardSource, SourceProblem } from './board-source';
import { spokenLocale } from './say';

/** A board that is there, with what the data says of its levers. */
export interface ReadyBoard {
  board: Board;
  locale: Locale;
  facts: Facts;
  engine: FormulaEngine | null;
}

/** A chart with what it is drawn from. */
export interface ChartData {
  dataset: DatasetInfo;
  cube: Cube;
}

/** What has happened to a session: all of it is to be shown anew, or levers have moved. */
export type SessionChange = { kind: 'board' } | { kind: 'moved'; passing: boolean };

/** So long after nobody answered it is asked again, ms. */
const untilAskedAgain = 10_000;
const second = 1000;

/**
 * One board on a page: its charts and levers share where the levers stand. It begins with the first element that follows
 * it, and rests when none does.
 */
export class BoardSession {
  private readonly listeners = new Set<(change: SessionChange) => void>();
  private moved: Positions = {};
  /** What elements have said of levers before the board was there, as in an address. */
  private readonly said = new Map<string, readonly string[]>();
  private known: ReadyBoard | null = null;
  private failed: SourceProblem | null = null;
  private round = 0;
  private unfollow = () => {};
  /** The datasets that are followed; null while none are. */
  private followed: string | null = null;
  private again: ReturnType<typeof setTimeout> | undefined;
  private clock: ReturnType<typeof setInterval> | undefined;

  constructor(
    readonly source: BoardSource,
    private lang: string | undefined = undefined,
  ) {}

  get ready(): ReadyBoard | null {
    return this.known;
  }

  /** Why there is no board; null while there is one, or it is on its way. */
  get problem(): SourceProblem | null {
    return this.failed;
  }

  /** Where levers stand as they were moved. */
  get positions(): Positions {
    return this.moved;
  }

  /** Has its levers stand where they do in another one, of the same board over other rows. */
  takeOver({ moved }: BoardSession): void {
    this.moved = moved;
  }

  /** Hears of what happens. Returns what ends that. */
  listen(heard: (change: SessionChange) => void): () => void {
    this.listeners.add(heard);
    if (this.listeners.size === 1) void this.load();
    return () => {
      this.listeners.delete(heard);
      if (!this.listeners.size) this.rest();
    };
  }

  /** The language of words, numbers and dates; left out, the board's. */
  speak(lang: string | undefined): void {
    if (lang === undefined || lang === this.lang) return;
    this.lang = lang;
    if (this.listeners.size) void this.load();
  }

  /** Says where a lever stands in the words of an address. What it cannot be is left as it is. */
  say(lever: string, texts: readonly string[]): void {
    this.said.set(lever, texts);
    if (!this.known) return;
    const positions = this.read(this.known.board, [[lever, texts]]);
    if (lever in positions) this.move(lever, positions[lever]);
  }

  /** Moves a lever; `passing` while a drag goes on. */
  move(lever: string, position: unknown, passing = false): void {
    this.moved = { ...this.moved, [lever]: position };
    this.tell({ kind: 'moved', passing });
  }

  /** Where a lever stands, fitted to the data. */
  standing(lever: Lever): unknown {
    return settledPosition(lever, this.moved, this.known!.facts).position;
  }

  /** All that a chart shows besides its data. */
  inputFor(id: string, { dataset, cube }: ChartData): ChartInput {
    const { board, facts, engine } = this.known!;
    return {
      ...{ board, dataset, cube, facts, engine },
      chart: enabledChart(board.charts.find((chart) => chart.id === id)!),
      today: today(),
      positionOf: settledPositions(board.levers, this.moved, facts),
      viewed: true,
    };
  }

  /** What a chart is drawn from where the levers stand. */
  async dataOf(id: string, signal?: AbortSignal): Promise<ChartData> {
    const { board, facts, engine } = this.known!;
    const chart = enabledChart(board.charts.find((each) => each.id === id)!);
    const dataset = await this.source.dataset(chart.dataset);
    const cube = await chartCube(
      {
        ...{ chart, board, dataset, facts, engine },
        today: today(),
        positionOf: settledPositions(board.levers, this.moved, facts),
      },
      {
        cube: (query) => this.source.cube(dataset.id, query, signal),
        cells: (query) => this.source.cells(dataset.id, query),
      },
    );
    return { dataset, cube };
  }

  private read({ levers }: Board, said: Iterable<readonly [string, readonly string[]]>): Positions {
    const query = new URLSearchParams([...said].flatMap(([id, texts]) => texts.map((text) => [id, text])));
    return positionsFromQuery(levers, query).positions;
  }

  private tell(change: SessionChange): void {
    for (const heard of this.listeners) heard(change);
  }

  private async load(): Promise<void> {
    const round = ++this.round;
    clearTimeout(this.again);
    try {
      const found = await this.source.board();
      const board = this.lang ? { ...found, locale: this.lang } : found;
      const [locale, engine] = await Promise.all([
        spokenLocale(board.locale),
        board.charts.some(readsFormulas)
          ? import('@sorvik/formula/full-engine').then(({ fullEngine }) => fullEngine as FormulaEngine)
          : null,
      ]);
      // Before the board was there, what elements said of its levers could not be read.
      const standing = () => (this.known ? this.moved : { ...this.read(board, this.said), ...this.moved });
      const facts = await this.askFacts(board, standing());
      if (round !== this.round) return;
      this.moved = standing();
      this.known = { board, locale, engine, facts };
      this.failed = null;
      this.follow(datasetsOf(board));
      this.runClocks(board);
      this.tell({ kind: 'board' });
    } catch (error) {
      if (round !== this.round) return;
      const problem =
        error instanceof SourceProblem
          ? error
          : new SourceProblem('embed.problem.other', { why: String(error) });
      this.failed = problem;
      if (problem.away) this.again = setTimeout(() => void this.load(), untilAskedAgain);
      else {
        this.known = null;
        this.rest();
      }
      this.tell({ kind: 'board' });
    }
  }

  private askFacts(board: Board, positions: Positions): Promise<Facts> {
    const { source } = this;
    return leverFacts(board, positions, {
      dataset: (id) => source.dataset(id),
      cube: (dataset, query) => source.cube(dataset, query),
      absent: (...asked) => source.absent(...asked).catch(() => []),
    });
  }

  /** Follows some datasets; where it does so already, it goes on. */
  private follow(datasets: readonly string[]): void {
    const name = datasets.join();
    if (this.followed === name) return;
    this.unfollow();
    this.followed = name;
    this.unfollow = this.source.follow(datasets, () => void this.load());
  }

  private runClocks({ levers }: Board): void {
    clearInterval(this.clock);
    const clocks = levers.filter((lever) => kindOf(lever).atInstant);
    if (!clocks.length) return;
    const tick = () => {
      const told = clocks.map((lever) => [
        lever.id,
        kindOf(lever).atInstant!(lever, this.moved[lever.id], Date.now()),
      ]);
      this.moved = { ...this.moved, ...Object.fromEntries(told) };
      this.tell({ kind: 'moved', passing: false });
    };
    this.clock = setInterval(tick, second);
    tick();
  }

  private rest(): void {
    this.round++;
    this.unfollow();
    this.unfollow = () => {};
    this.followed = null;
    clearTimeout(this.again);
    clearInterval(this.clock);
  }
}

/** A lever of a board that viewers see. */
export function shownLever(board: Board, id: string): Lever | undefined {
  const lever = leverOf(board, id);
  return lever && !lever.hidden ? lever : undefined;
}
