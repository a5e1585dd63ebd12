/** The application as the measurements see it. */
export interface StartedServer {
  url: string;
  /** The pages of another website, which may show its charts. */
  pages: string;
  /** The process whose memory is watched. */
  pid: number;
  /** Where it writes down how long its event loop stood still, when it gets SIGUSR2. */
  stallFile: string;
  /** Runs a script in psql against the application's own database. */
  psql(script: string): Promise<string>;
  query(text: string, values?: unknown[]): Promise<{ rows: Record<string, unknown>[] }>;
  /** The table that holds a dataset's rows. */
  tableOf(dataset: string): Promise<string>;
}
