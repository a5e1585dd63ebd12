import { heldText } from '@sorvik/core/levers/levers-held';
import { litMarks, type PlainMark } from '@sorvik/core/pipeline/plain-marks';
import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { ChartView } from '@sorvik/view/chart-view';
import { element } from '@sorvik/view/element';
import { textMeasure } from '@sorvik/view/measure-text';
import { boardAddress } from './board-address';
import type { BoardSession, ChartData, SessionChange } from './board-session';
import { SourceProblem } from './board-source';
import { ownSessionOf } from './own-data/own-session';
import { PartElement } from './part-element';
import { say } from './say';

/** What the parts of a chart are called for the styles of the page, by where they are. */
const parts: Readonly<Record<string, string>> = {
  '.sv-chart-subtitle': 'subtitle',
  '.sv-legend': 'legend',
  '.sv-plot': 'plot',
  figcaption: 'caption',
};

/** A question was broken off. */
const isAbort = (error: unknown) => (error as { name?: string }).name === 'AbortError';
/** A question goes on for so long while a newer one waits, ms. */
const patience = 150;
let count = 0;

/** `<sorvik-chart>`: a chart of a board, or of rows of the page, with everything that it answers to. */
export class ChartElement extends PartElement {
  private readonly heading = element('div', 'sv-chart-title');
  private readonly figure = element('figure', 'sv-chart', this.heading);
  private readonly name = `sorvik-${++count}`;
  private view: ChartView | null = null;
  private drawn: ChartData | null = null;
  /** The question that is under way, since when, ms, and whether levers have moved since. */
  private asking: AbortController | null = null;
  private began = 0;
  private asksAgain = false;
  private lit = '';
  private rows: unknown = undefined;
  private described: unknown = undefined;

  constructor() {
    super();
    this.heading.setAttribute('part', 'title');
    this.heading.id = `${this.name}-title`;
    this.figure.setAttribute('aria-labelledby', this.heading.id);
    this.ground.append(this.figure);
  }

  override connectedCallback(): void {
    this.takeProperties('data', 'description');
    super.connectedCallback();
  }

  /** Rows of the page that the chart is of: records, or Arrow IPC. */
  get data(): unknown {
    return this.rows;
  }

  set data(rows: unknown) {
    this.rows = rows;
    this.restart();
  }

  /** The chart that its rows are drawn as, or a board with levers and charts, as the JSON Schema has them. */
  get description(): unknown {
    return this.described ?? this.writtenDescription();
  }

  set description(described: unknown) {
    this.described = described;
    this.restart();
  }

  /** What is lit now. */
  get litMarks(): readonly PlainMark[] {
    const shown = this.view?.shown;
    return shown ? litMarks(shown) : [];
  }

  /** The chart as it is now, as a file. Rejects while there is none. */
  async picture({
    format = 'svg',
    scale = 2,
  }: {
    format?: 'svg' | 'png';
    scale?: number;
  } = {}): Promise<Blob> {
    const shown = this.view?.shown;
    if (!shown) throw new Error(say(this.locale, 'embed.loading'));
    const [{ pagePicture }, { picturePng }] = await Promise.all([
      import('@sorvik/view/picture/page-picture'),
      import('@sorvik/view/picture/picture-png'),
    ]);
    const family = getComputedStyle(this.ground).fontFamily;
    const title = this.heading.textContent ?? '';
    const picture = await pagePicture({ output: shown, beside: this.figure, title, family });
    if (format === 'svg') return new Blob([picture.text], { type: 'image/svg+xml;charset=utf-8' });
    const png = await picturePng(picture, scale);
    if (!png) throw new RangeError(say(this.locale, 'embed.picture.tooLarge'));
    return png;
  }

  protected get partId(): string {
    const address = boardAddress(this.getAttribute('src') ?? '', document.baseURI);
    const only = this.followed?.ready?.board.charts[0]?.id ?? '';
    return address?.part || only;
  }

  protected override ownSession(): BoardSession | null {
    const { description } = this;
    return this.rows === undefined || description === undefined
      ? null
      : ownSessionOf(this, this.rows, description);
  }

  protected clear(): void {
    this.asking?.abort();
    this.asking = null;
    this.asksAgain = false;
    this.view?.destroy();
    this.view = null;
    this.drawn = null;
    this.lit = '';
  }

  protected show(session: BoardSession, change: SessionChange): void {
    const { board } = session.ready!;
    const id = this.partId;
    if (!board.charts.some((chart) => chart.id === id))
      throw new SourceProblem('embed.chart.none', {
        chart: id,
        charts: board.charts.map((chart) => chart.id).join(', '),
      });
    const height = this.getAttribute('height');
    if (height !== null) this.style.height = /^\d+$/.test(height) ? `${height}px` : height;
    this.figure.dataset.caption = this.getAttribute('caption') ?? '';
    // Figures that are asked for where levers stand are asked for anew when one has moved.
    const asks = change.kind === 'board' || this.drawn?.cube.asked === true;
    if (change.kind === 'moved' && this.view && this.drawn) {
      this.view.moved(session.inputFor(id, this.drawn), change.passing);
      this.entitle(session, id);
    }
    if (!asks) return;
    // One question at a time: a newer one waits for it, and breaks it off where it takes long.
    const waits = change.kind === 'moved' && this.asking && performance.now() - this.began < patience;
    if (waits) this.asksAgain = true;
    else void this.ask(session, id);
  }

  private async ask(session: BoardSession, id: string): Promise<void> {
    this.asking?.abort();
    const asking = new AbortController();
    this.asking = asking;
    this.began = performance.now();
    this.asksAgain = false;
    this.view?.mark({ hidden: false, waiting: true });
    try {
      const data = await session.dataOf(id, asking.signal);
      if (asking.signal.aborted || this.followed !== session) return;
      this.paint(session, id, data);
    } catch (error) {
      if (asking.signal.aborted || isAbort(error)) return;
      this.view?.mark({ hidden: false, waiting: false });
      if (!this.view) this.fail(error);
    } finally {
      if (this.asking === asking) {
        this.asking = null;
        if (this.asksAgain) void this.ask(session, id);
      }
    }
  }

  private paint(session: BoardSession, id: string, data: ChartData): void {
    this.drawn = data;
    this.tell(null);
    this.entitle(session, id);
    if (!this.view) {
      this.view = new ChartView(this.figure, {
        id: this.name,
        measure: textMeasure(getComputedStyle(this.ground).fontFamily),
        move: ({ id: lever }, position, passing) => this.movedByHand(lever, position, passing),
        painted: (result) => this.painted(result),
      });
      for (const [where, part] of Object.entries(parts))
        this.figure.querySelector(where)?.setAttribute('part', part);
    }
    this.view.update(session.inputFor(id, data));
    this.view.mark({ hidden: false, waiting: false });
  }

  private entitle(session: BoardSession, id: string): void {
    const { board, facts, engine } = session.ready!;
    const chart = board.charts.find((each) => each.id === id)!;
    const words = vocabularyOf(board, this.drawn?.dataset, engine);
    const text = chartTitle(chart, words, heldText(board, { positions: session.positions, facts }, words));
    if (this.heading.textContent !== text) this.heading.textContent = text;
  }

  /** Tells the page what is lit, where that is something else than before. */
  private painted(result: ChartResult): void {
    const marks = litMarks(result);
    const said = JSON.stringify(marks.map(({ category, series }) => [category, series]));
    if (said === this.lit) return;
    this.lit = said;
    const detail = { chart: this.partId, lit: marks };
    this.dispatchEvent(new CustomEvent('sorvik:lit', { detail, bubbles: true, composed: true }));
  }

  /** A description that stands in the element: `<script type="application/json">`. */
  private writtenDescription(): unknown {
    const script = this.querySelector('script[type="application/json"]');
    if (!script) return undefined;
    try {
      return JSON.parse(script.textContent ?? '');
    } catch (error) {
      throw new SourceProblem('embed.problem.description', { why: (error as Error).message });
    }
  }
}
