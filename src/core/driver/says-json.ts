import type { DriverDocument } from './schema';

/** True when what the device says is JSON. */
export const saysJson = ({ framing }: Pick<DriverDocument, 'framing'>): boolean =>
  framing.kind === 'json-lines' ||
  (framing.kind === 'message' && framing.as === 'json') ||
  (framing.kind === 'http' && framing.body === 'json');
