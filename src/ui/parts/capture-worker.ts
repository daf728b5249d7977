import { captureRows, type CaptureDevice } from '../../core/capture';

/** Reads a capture beside the window: fifty megabytes take seconds. */

export interface CaptureOrder {
  readonly file: ArrayBuffer;
  readonly devices: readonly CaptureDevice[];
}

self.onmessage = ({ data }: MessageEvent<CaptureOrder>) => {
  self.postMessage(captureRows(new Uint8Array(data.file), data.devices));
};
