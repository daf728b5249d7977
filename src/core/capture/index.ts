export { captureRows, type CaptureDevice, type CapturePart, type CaptureReading } from './rows';
export type { CaptureError } from './packets';
export { writePcapng, type CapturedDevice } from './write';
