import type { ImportView } from '@sorvik/core/board/api-types';
import { tell } from '../ui/tell';

/** Sends a file to an address of the API as it lies on disk; the browser reads it piece by piece. Rejects with a sentence for the user. */
export function sendFile(
  file: File,
  address: string,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<ImportView> {
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
