import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
// @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
import { removeData, startPostgres } from '../../scripts/lib/postgres.mjs';

export interface Cluster {
  url: string;
  stop(): Promise<void>;
  /** Starts it again where it was. */
  start(): Promise<void>;
  remove(): Promise<void>;
}

interface Certificate {
  certificate: string;
  key: string;
}

/** A PostgreSQL of its own, as somebody else's would be. */
export async function startCluster(tls: Certificate | null = null): Promise<Cluster> {
  const folder = mkdtempSync(join(tmpdir(), 'sorvik-cluster-'));
  chmodSync(folder, 0o755);
  let running = await startPostgres(folder, { throwAway: true, tls });
  return {
    get url() {
      return running.url;
    },
    stop: () => running.stop(),
    async start() {
      running = await startPostgres(folder, {
        throwAway: true,
        tls,
        port: Number(new URL(running.url).port),
      });
    },
    async remove() {
      await running.stop();
      removeData(folder);
    },
  };
}

/** A certificate that vouches for itself, for a host or an address: `IP:127.0.0.1`, `DNS:harbour.example`. */
export function certificateFor(name: string): Certificate {
  const folder = mkdtempSync(join(tmpdir(), 'sorvik-certificate-'));
  const [certificate, key] = [join(folder, 'crt'), join(folder, 'key')];
  execFileSync(
    'openssl',
    [
      ...[
        'req',
        '-x509',
        '-newkey',
        'ec',
        '-pkeyopt',
        'ec_paramgen_curve:prime256v1',
        '-nodes',
        '-days',
        '2',
      ],
      ...['-subj', '/CN=harbour', '-addext', `subjectAltName=${name}`, '-keyout', key, '-out', certificate],
    ],
    { stdio: 'ignore' },
  );
  const made = { certificate: readFileSync(certificate, 'utf8'), key: readFileSync(key, 'utf8') };
  rmSync(folder, { recursive: true });
  return made;
}
