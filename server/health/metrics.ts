import { Counter, collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { Database } from '../db/client';
import { tell } from '../tell';

/** What can be told of the parts of a server while it runs. */
export interface Measured {
  database: Database;
  /** How many imports there are in each state. */
  imports(): Record<string, number>;
  /** How many column copies are ready, and how many are on their way. */
  copies(): { ready: number; waiting: number };
}

const answerSeconds = [0.005, 0.02, 0.05, 0.1, 0.3, 1, 3, 10, 30];

/** Figures of a running server, in the open text format: requests, questions, pools, jobs, copies, the event loop. */
export class Metrics {
  private readonly registry = new Registry();
  private readonly seconds = new Histogram({
    name: 'sorvik_request_seconds',
    help: tell('metrics.requests'),
    labelNames: ['route', 'method', 'status'],
    buckets: answerSeconds,
    registers: [this.registry],
  });
  private readonly refused = new Counter({
    name: 'sorvik_requests_limited_total',
    help: tell('metrics.limited'),
    registers: [this.registry],
  });

  constructor({ database, imports, copies }: Measured) {
    const { registry } = this;
    collectDefaultMetrics({ register: registry });
    const gauge = (name: string, help: string, label: string, values: () => Record<string, number>) =>
      new Gauge({
        name,
        help,
        labelNames: [label],
        registers: [registry],
        collect() {
          this.reset();
          for (const [of, value] of Object.entries(values())) this.set({ [label]: of }, value);
        },
      });
    gauge('sorvik_pool_connections', tell('metrics.pool'), 'state', () => ({
      open: database.pool.totalCount,
      idle: database.pool.idleCount,
      waited_for: database.pool.waitingCount,
      reading: database.readers.totalCount - database.readers.idleCount,
      waited_for_by_readers: database.readers.waitingCount,
    }));
    gauge('sorvik_imports', tell('metrics.imports'), 'state', imports);
    gauge('sorvik_copies', tell('metrics.copies'), 'state', () => ({ ...copies() }));
    gauge('sorvik_database', tell('metrics.listens'), 'listens', () => ({
      yes: database.changes.listening ? 1 : 0,
    }));
  }

  answered(route: string, method: string, status: number, ms: number): void {
    this.seconds.observe({ route, method, status: String(status) }, ms / 1000);
    if (status === 429) this.refused.inc();
  }

  get type(): string {
    return this.registry.contentType;
  }

  text(): Promise<string> {
    return this.registry.metrics();
  }
}
