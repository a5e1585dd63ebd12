type Listener = (reading: number) => void;

/** Tells between a chart and its workings which mark is meant: each chart has two sides that can point and listen. */
class PointedMarks {
  private readonly listeners = new Map<string, Set<Listener>>();

  listen(to: string, listener: Listener): () => void {
    const own = this.listeners.get(to) ?? new Set();
    this.listeners.set(to, own.add(listener));
    return () => own.delete(listener);
  }

  point(to: string, reading: number): void {
    for (const listener of this.listeners.get(to) ?? []) listener(reading);
  }
}

/** From workings to the marks of a chart, by its id. */
export const pointedInWorkings = new PointedMarks();
/** From a chart, by its id, to its workings. */
export const pressedInChart = new PointedMarks();
