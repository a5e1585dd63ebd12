import type { ShownBoard } from '@sorvik/core/board/api-types';
import { cubeFromJson } from '@sorvik/core/data/cube-json';
import type { DatasetInfo } from '@sorvik/core/data/dataset';
import type { KeyValue } from '@sorvik/core/data/values';
import type { BoardAddress } from './board-address';
import { type BoardSource, SourceProblem } from './board-source';

/** What is wrong, by the type of a problem document. */
const problems = {
  '/problems/foreign-origin': 'embed.problem.origin',
  '/problems/link-ended': 'embed.problem.ended',
  '/problems/sign-in': 'embed.problem.rights',
  '/problems/not-found': 'embed.problem.gone',
} as const;

/** So many values of a long list are seen at once. */
const fewValues = 50;
/** A connection that broke off is opened again after so long, ms; each time it fails after twice as long, up to the last. */
const pauses = { first: 1000, last: 60_000 };

/** Waits until somebody can see the page. */
const untilSeen = (): Promise<void> =>
  new Promise((seen) => {
    if (!document.hidden) return seen();
    const look = () => {
      if (document.hidden) return;
      document.removeEventListener('visibilitychange', look);
      seen();
    };
    document.addEventListener('visibilitychange', look);
  });

/** What is published of a board on a server, asked for from a page of another one. */
export class ServerSource implements BoardSource {
  private readonly cubes = new Map<string, Promise<string>>();

  constructor(private readonly address: Pick<BoardAddress, 'server' | 'board' | 'link'>) {}

  async board() {
    const { document } = await this.json<ShownBoard>(
      `boards/${encodeURIComponent(this.address.board)}/shown`,
    );
    return document;
  }

  dataset(id: string) {
    return this.json<DatasetInfo>(`datasets/${encodeURIComponent(id)}`);
  }

  async cube(dataset: string, query: string, signal?: AbortSignal) {
    const version = Number(new URLSearchParams(query).get('version'));
    return { ...cubeFromJson(await this.text(dataset, query, signal)), version };
  }

  async cells(dataset: string, query: string) {
    return (await this.json<{ cells: number }>(`datasets/${encodeURIComponent(dataset)}/cube/size?${query}`))
      .cells;
  }

  async absent(dataset: string, field: string, values: readonly KeyValue[]) {
    const path = `datasets/${encodeURIComponent(dataset)}/fields/${encodeURIComponent(field)}/absent`;
    const response = await this.ask(path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ values }),
    });
    return ((await response.json()) as { absent: KeyValue[] }).absent;
  }

  async values({ id, version }: DatasetInfo, field: string, search: string) {
    const query = new URLSearchParams({
      version: String(version),
      offset: '0',
      limit: String(fewValues),
      search,
    });
    const path = `datasets/${encodeURIComponent(id)}/fields/${encodeURIComponent(field)}/values?${query}`;
    const { found, values } = await this.json<{ found: number; values: { value: KeyValue }[] }>(path);
    return { found, values: values.map(({ value }) => value) };
  }

  follow(datasets: readonly string[], changed: () => void): () => void {
    const over = new AbortController();
    void this.listen(datasets, changed, over.signal);
    return () => over.abort();
  }

  /** Hears of changes: by a request of its own, as what browsers have for that cannot name a link. */
  private async listen(datasets: readonly string[], changed: () => void, signal: AbortSignal): Promise<void> {
    const query = new URLSearchParams(datasets.map((id) => ['dataset', id]));
    let pause = pauses.first;
    let begun = false;
    while (!signal.aborted) {
      // A page that nobody sees lets go of its connection, of which a browser has few; seen again it catches up.
      const unseen = new AbortController();
      const look = () => document.hidden && unseen.abort();
      document.addEventListener('visibilitychange', look);
      try {
        await untilSeen();
        if (signal.aborted) break;
        const { body } = await this.ask(`changes?${query}`, {
          signal: AbortSignal.any([signal, unseen.signal]),
        });
        const reader = body!.pipeThrough(new TextDecoderStream()).getReader();
        for (let text = ''; ; ) {
          const { value, done } = await reader.read();
          if (done) break;
          text += value;
          const events = text.split('\n\n');
          text = events.pop()!;
          // The first one says what is known already.
          if (events.some((event) => /^event: /m.test(event))) {
            if (begun) changed();
            begun = true;
            pause = pauses.first;
          }
        }
      } catch (error) {
        // What is refused is looked at again after a while, and not at once: another refusal would come of it.
        if (error instanceof SourceProblem && !error.away) pause = pauses.last;
        if (unseen.signal.aborted) continue;
      } finally {
        document.removeEventListener('visibilitychange', look);
      }
      await new Promise((resolve) => setTimeout(resolve, pause));
      pause = Math.min(2 * pause, pauses.last);
    }
  }

  /** Cubes are fetched once: the version of the rows is in their query. */
  private text(dataset: string, query: string, signal?: AbortSignal): Promise<string> {
    const path = `datasets/${encodeURIComponent(dataset)}/cube?${query}&as=json`;
    const known = this.cubes.get(path);
    if (known) return known;
    const fetched = this.ask(path, signal ? { signal } : {}).then((response) => response.text());
    // What may be broken off by one is not waited for by others.
    if (signal) return fetched;
    fetched.catch(() => this.cubes.delete(path));
    this.cubes.set(path, fetched);
    if (this.cubes.size > 40) this.cubes.delete(this.cubes.keys().next().value!);
    return fetched;
  }

  private async json<T>(path: string): Promise<T> {
    return (await this.ask(path)).json() as Promise<T>;
  }

  private async ask(path: string, init: RequestInit = {}): Promise<Response> {
    const { server, link } = this.address;
    const headers = new Headers(init.headers);
    if (link !== null) headers.set('sorvik-link', link);
    let response: Response;
    try {
      response = await fetch(`${server}/api/${path}`, { ...init, headers, credentials: 'same-origin' });
    } catch (error) {
      if ((error as Error).name === 'AbortError') throw error;
      throw new SourceProblem('embed.problem.away', { server }, true);
    }
    if (response.ok) return response;
    const { type = '', detail = '' } = (await response.json().catch(() => ({}))) as Record<string, string>;
    const known = problems[type as keyof typeof problems];
    if (known) throw new SourceProblem(known, { origin: location.origin });
    throw new SourceProblem(
      'embed.problem.other',
      { why: detail || String(response.status) },
      response.status >= 500,
    );
  }
}
