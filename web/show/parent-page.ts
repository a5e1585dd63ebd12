/** What is written to and from the page around a frame has this in it, so that it is not taken for something else. */
const version = 1;

/** What a page around a frame says. */
export type Heard =
  | { type: 'hello' }
  | { type: 'move'; positions: Readonly<Record<string, unknown>> }
  | { type: 'theme'; theme: 'light' | 'dark' };

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Reads what a page around a frame says; null where it is nothing of ours. */
export function heardIn(data: unknown): Heard | null {
  if (!isRecord(data) || data.sorvik !== version) return null;
  const { type, positions, theme } = data;
  if (type === 'hello') return { type };
  if (type === 'move' && isRecord(positions)) return { type, positions };
  if (type === 'theme' && (theme === 'light' || theme === 'dark')) return { type, theme };
  return null;
}

/** The window of a frame, as far as it is needed to speak with the page around it. */
export interface Frame {
  parent: Pick<Window, 'postMessage'>;
  location: { ancestorOrigins?: ArrayLike<string> };
  document: { referrer: string };
  addEventListener(type: 'message', heard: (event: MessageEvent) => void): void;
}

/** The origin of the page around a frame, where the browser says it. */
function parentOrigin({ location, document }: Frame): string | null {
  const [named] = Array.from(location.ancestorOrigins ?? []);
  if (named) return named;
  return URL.canParse(document.referrer) ? new URL(document.referrer).origin : null;
}

/**
 * Speaks with the page around a frame by `postMessage`: only where its origin is one of `origins`, and with no other. Where
 * the browser does not say its origin, the frame waits for a message from it.
 */
export class ParentPage {
  private readonly waiting = new Map<string, object>();
  private origin: string | null;
  private early: Heard[] = [];
  private hear = (heard: Heard): void => void this.early.push(heard);

  constructor(
    private readonly frame: Frame,
    private readonly origins: readonly string[],
  ) {
    const named = parentOrigin(frame);
    this.origin = named !== null && origins.includes(named) ? named : null;
    frame.addEventListener('message', (event) => this.message(event));
  }

  /** Says something. Of one `type`, and of one chart, only the latest waits for a page that has not been heard of. */
  tell(type: string, said: Readonly<Record<string, unknown>>): void {
    const message = { sorvik: version, type, ...said };
    if (this.origin === null) this.waiting.set([type, said.chart ?? ''].join(), message);
    else this.frame.parent.postMessage(message, this.origin);
  }

  /** Hears what it says, and what it has said so far. Returns what ends that. */
  listen(hear: (heard: Heard) => void): () => void {
    const { early } = this;
    this.early = [];
    this.hear = hear;
    for (const heard of early) hear(heard);
    return () => {
      this.hear = (heard) => void this.early.push(heard);
    };
  }

  private message({ source, origin, data }: MessageEvent): void {
    if (source !== this.frame.parent || !this.origins.includes(origin)) return;
    const heard = heardIn(data);
    if (!heard) return;
    if (this.origin === null) {
      this.origin = origin;
      for (const message of this.waiting.values()) this.frame.parent.postMessage(message, origin);
      this.waiting.clear();
    }
    this.hear(heard);
  }
}
