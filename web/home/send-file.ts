import type { ImportView } from '@sorvik/core/board/api-types';

/** Sends a file as it lies on disk; the browser reads it piece by piece. Rejects with a sentence for the user. */
export function sendFile(
  file: File,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<ImportView> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/imports?name=${encodeURIComponent(file.name.slice(0, 255))}`);
    request.setRequestHeader('content-type', 'text/csv');
    request.upload.onprogress = (event) => onProgress(event.total ? event.loaded / event.total : 0);
    request.onload = () => {
      try {
        const body = JSON.parse(request.responseText);
        if (request.status === 201) resolve(body);
        else reject(new Error(body.detail ?? 'The file could not be imported.'));
      } catch {
        reject(
          new Error(
            'Unexpected answer from the server. Try again; if it happens again, see server.log in the data directory.',
          ),
        );
      }
    };
    request.onerror = () =>
      reject(new Error('The server does not answer, or the file could not be read. Try again.'));
    request.onabort = () => reject(new Error('Import cancelled. Nothing was saved.'));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}
