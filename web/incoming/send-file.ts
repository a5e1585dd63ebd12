import type { ImportView } from '@sorvik/core/board/api-types';
import { tell } from '../ui/tell';

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
        else reject(new Error(body.detail ?? tell('incoming.send.theFileCouldNotBe')));
      } catch {
        reject(new Error(tell('incoming.send.unexpectedAnswerFromTheServer')));
      }
    };
    request.onerror = () => reject(new Error(tell('incoming.send.theServerDoesNotAnswer')));
    request.onabort = () => reject(new Error(tell('incoming.send.importCancelledNothingWasSaved')));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}

/**
 * Sends files that become one: each is kept until all are there, and then they are read together. One file is read as it
 * comes.
 */
export async function sendFiles(
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
