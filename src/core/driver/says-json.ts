import type { DriverDocument } from './schema';

/** True when what the device says is JSON, or XML that is read as if it were. */
export const saysJson = ({ framing }: Pick<DriverDocument, 'framing'>): boolean =>
  framing.kind === 'json-lines' ||
  (framing.kind === 'message' && framing.as === 'json') ||
  (framing.kind === 'http' && (framing.body === 'json' || framing.body === 'xml'));
