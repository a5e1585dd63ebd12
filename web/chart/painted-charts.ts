import type { ChartResult } from '@sorvik/core/pipeline/stage';

type Listener = (chart: string, result: ChartResult) => void;

/** Tells what charts show, by their ids, to whoever begins to listen at any time. */
class PaintedCharts {
  private readonly listeners = new Set<Listener>();
  private readonly last = new Map<string, ChartResult>();

  tell(chart: string, result: ChartResult): void {
    this.last.set(chart, result);
    for (const listener of this.listeners) listener(chart, result);
  }

  /** A chart is gone. */
  forget(chart: string): void {
    this.last.delete(chart);
  }

  /** Calls `act` once all of some charts are painted, and then hears nothing more. Returns what calls it off. */
  once(charts: readonly { id: string }[], act: () => void): () => void {
    const missing = new Set(charts.map(({ id }) => id));
    const unlisten = this.listen((chart) => {
      if (!missing.delete(chart) || missing.size) return;
      // The first ones are told of while it begins to listen.
      queueMicrotask(() => unlisten());
      act();
    });
    return unlisten;
  }

  /** Hears of all that is shown now, and of what comes. Returns what ends that. */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    for (const [chart, result] of this.last) listener(chart, result);
    return () => this.listeners.delete(listener);
  }
}

/** The charts of the open page. */
export const paintedCharts = new PaintedCharts();
