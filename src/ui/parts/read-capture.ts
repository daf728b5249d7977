import type { CaptureDevice, CaptureError, CaptureReading } from '../../core/capture';
import type { Result } from '../../core/result';
import type { CaptureOrder } from './capture-worker';

/** What a browser can hold twice. */
const mostBytes = 300_000_000;

/**
 * Reads a packet capture beside the window. Tells the reading, or a sentence with the name of the file.
 *
 * @param devices the devices whose conversations are cut into frames as their drivers cut them
 * @returns ends it; nothing is told afterwards
 */
export function readCaptureFile(
  file: File,
  devices: readonly CaptureDevice[],
  onRead: (reading: CaptureReading) => void,
  onRefused: (message: string) => void,
): () => void {
  if (file.size > mostBytes) {
    onRefused(`${file.name} is larger than 300 MB. Save a shorter part of it.`);
    return () => undefined;
  }
  const worker = new Worker(new URL('./capture-worker.ts', import.meta.url), { type: 'module' });
  let isEnded = false;
  const end = () => {
    isEnded = true;
    worker.terminate();
  };
  const refuse = (message: string) => {
    if (isEnded) return;
    end();
    onRefused(`${file.name}: ${message}`);
  };
  worker.onmessage = ({ data }: MessageEvent<Result<CaptureReading, CaptureError>>) => {
    if (!data.ok) return refuse(data.error.message);
    end();
    onRead(data.value);
  };
  worker.onerror = () => refuse('The file could not be read.');
  file.arrayBuffer().then(
    (bytes) => {
      const order: CaptureOrder = { file: bytes, devices };
      if (!isEnded) worker.postMessage(order, [bytes]);
    },
    () => refuse('The file could not be read.'),
  );
  return end;
}
