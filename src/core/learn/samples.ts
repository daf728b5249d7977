import { compileDriver, sampleFrom, type DriverSample } from '../driver';
import { toHex } from '../wire';
import type { WrittenDocument } from './document';

/** More of one kind say nothing more. */
export const mostSamples = 6;

/** Frames that came in, with what this document reads in each: different ones, a few. Nothing where the document has mistakes. */
export function samplesOf(document: WrittenDocument, frames: readonly Uint8Array[]): DriverSample[] {
  const driver = compileDriver(document);
  if (!driver.ok) return [];
  const unlike = new Map(frames.map((frame) => [toHex(frame), frame]));
  return [...unlike.keys()].slice(0, mostSamples).flatMap((hex) => sampleFrom(driver.value, hex, undefined) ?? []);
}
