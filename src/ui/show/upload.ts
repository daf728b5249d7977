import { maxShowFileBytes, type NotStaged, type StagedShow } from '../../core/show';

/** An upload under way: told how far it is, and to be ended. */
export interface Upload {
  readonly done: Promise<StagedShow | NotStaged>;
  readonly cancel: () => void;
}

const cancelled: NotStaged = { ok: false, message: 'Cancelled. Nothing was loaded.' };

/**
 * Sends a show file and gets back what loading it would change. `fetch` tells nothing of how far a request has come, so this is an
 * XMLHttpRequest (XHR standard, "upload" events).
 */
export function uploadShow(file: Blob, onProgress: (part: number) => void): Upload {
  if (file.size > maxShowFileBytes) {
    const most = maxShowFileBytes / 1024 / 1024;
    const message = `The file has ${Math.ceil(file.size / 1024 / 1024)} MB; ${most} MB is the most that can be loaded.`;
    return { done: Promise.resolve({ ok: false, message }), cancel: () => undefined };
  }
  const request = new XMLHttpRequest();
  const done = new Promise<StagedShow | NotStaged>((resolve) => {
    request.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0);
    request.onload = () => resolve(answerOf(request));
    request.onabort = () => resolve(cancelled);
    request.onerror = () =>
      resolve({ ok: false, message: 'Not loaded: the connection broke while the file was sent. Choose it again.' });
    request.open('POST', '/desk/show-file');
    request.setRequestHeader('content-type', 'application/json');
    request.send(file);
  });
  return { done, cancel: () => request.abort() };
}

function answerOf(request: XMLHttpRequest): StagedShow | NotStaged {
  try {
    return JSON.parse(request.responseText) as StagedShow | NotStaged;
  } catch {
    return { ok: false, message: `Not loaded: ${request.responseText.slice(0, 200) || `HTTP ${request.status}`}` };
  }
}
