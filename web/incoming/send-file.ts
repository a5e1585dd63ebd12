import type { ImportView } from '@sorvik/core/board/api-types';
import { tell } from '../ui/tell';

/** No answer came that says what has become of what was sent: it can be sent again. */
class Unanswered extends Error {}

/** Answers of what stands before a server that is not there. */
const awayStatuses = [502, 503, 504];

/** Sends a file to an address of the API as it lies on disk; the browser reads it piece by piece. Rejects with a sentence for the user. */
function sendFile<T>(
  file: File,
  address: string,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open(
      'POST',
      `${address}${address.includes('?') ? '&' : '?'}name=${encodeURIComponent(file.name.slice(0, 255))}`,
    );
    request.setRequestHeader('content-type', 'text/csv');
    request.upload.onprogress = (event) => onProgress(event.total ? event.loaded / event.total : 0);
    request.onload = () => {
      try {
        const body = JSON.parse(request.responseText);
        if (request.status === 201) resolve(body);
        else if (awayStatuses.includes(request.status)) throw new Error('away');
        // Parts that were kept by a server that has gone.
        else if (body.errors?.[0]?.pointer === '/part') reject(new Unanswered(body.detail));
        else reject(new Error(body.detail ?? tell('incoming.send.theFileCouldNotBe')));
      } catch {
        const Failure = awayStatuses.includes(request.status) ? Unanswered : Error;
        reject(new Failure(tell('incoming.send.unexpectedAnswerFromTheServer')));
      }
    };
    request.onerror = () => reject(new Unanswered(tell('incoming.send.theServerDoesNotAnswer')));
    request.onabort = () => reject(new Error(tell('incoming.send.importCancelledNothingWasSaved')));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}

/**
 * Sends files that become one: each is kept until all are there, and then they are read together. One file is read as it
 * comes.
 */
async function sendOnce(
  files: readonly File[],
  address: string,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<ImportView> {
  const [only] = files;
  if (files.length === 1) return sendFile(only!, address, onProgress, signal);
  const total = files.reduce((sum, { size }) => sum + size, 0) || 1;
  const parts: string[] = [];
  let before = 0;
  for (const file of files) {
    const report = (share: number) => onProgress((before + share * file.size) / total);
    const { part } = await sendFile<{ part: string }>(file, '/api/imports/parts', report, signal);
    parts.push(part);
    before += file.size;
  }
  const separator = address.includes('?') ? '&' : '?';
  const query = new URLSearchParams(parts.map((part) => ['part', part]));
  return sendFile(new File([], only!.name), `${address}${separator}${query}`, () => {}, signal);
}

/** After each of these it is tried once more, ms: a server that was killed is back by then, or another one is there. */
const pauses = [1000, 2000, 4000, 8000, 8000, 8000, 8000, 8000];

/** What has become of an import that no answer came of; null where it never arrived. Rejects while nobody answers. */
async function arrived(id: string, signal: AbortSignal): Promise<ImportView | null> {
  const answer = await fetch(`/api/imports/${id}`, { signal });
  if (answer.ok) return answer.json();
  if (answer.status === 404) return null;
  throw new Unanswered(tell('incoming.send.theServerDoesNotAnswer'));
}

/** Sends files until they have arrived, also where the server goes meanwhile; `id` is what the import is called by. */
export async function sendFiles(
  files: readonly File[],
  { address, id }: { address: string; id: string },
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<ImportView> {
  const named = `${address}${address.includes('?') ? '&' : '?'}id=${id}`;
  for (let tries = 0; ; tries++) {
    try {
      const known = tries ? await arrived(id, signal) : null;
      return known ?? (await sendOnce(files, named, onProgress, signal));
    } catch (error) {
      const passes = error instanceof Unanswered || error instanceof TypeError;
      if (!passes || tries === pauses.length || signal.aborted) throw error;
      onProgress(0);
      await new Promise((done) => setTimeout(done, pauses[tries]));
    }
  }
}
