import { z } from 'zod';
import { pictureKeySchema } from './messages';

const pathSchema = z.string().regex(/^\/\S*$/);

/** A picture that the relay can fetch, as the engine tells it. */
export const pictureSourceSchema = z.strictObject({
  key: pictureKeySchema,
  /** For the log and for what a person reads. */
  title: z.string(),
  /** Why it is not fetched now, although somebody looks. */
  off: z.enum(['not-connected', 'no-address']).optional(),
  secure: z.boolean().optional(),
  host: z.string().min(1),
  port: z.number().int().min(1).max(65_535),
  path: pathSchema,
  /** Where the same picture is handed out as a stream of pictures that replace one another. */
  stream: pathSchema.optional(),
  user: z.string().optional(),
  password: z.string().optional(),
  /** How often it is fetched where there is no stream, in milliseconds. */
  everyMs: z.number().int().min(40).max(600_000),
  /** The widths in pixels that it can be had in; `{width}` stands for one in its paths. */
  widths: z.array(z.number().int().min(16).max(8192)).max(12).optional(),
});
export type PictureSource = z.infer<typeof pictureSourceSchema>;

/** Far above what a rig has and a crew looks at. */
export const maxPictureSources = 2000;

export const pictureSourcesSchema = z.array(pictureSourceSchema).max(maxPictureSources);

/** The width to ask a device for: the smallest that is as large as wanted, or the largest. `undefined` where it has no choice. */
export function widthToAsk(widths: readonly number[] | undefined, wanted: number): number | undefined {
  const sorted = [...(widths ?? [])].sort((a, b) => a - b);
  return sorted.find((width) => width >= wanted) ?? sorted.at(-1);
}

/** A path with the width in its place. */
export const pathAt = (path: string, width: number | undefined): string =>
  width === undefined ? path : path.replaceAll('{width}', String(width));

const firstRetryMs = 500;
const longestRetryMs = 10_000;

/** How long to wait before the next try after so many failures in a row, in milliseconds. @param random 0 to 1 */
export function retryAfterMs(failures: number, random: number): number {
  const wait = Math.min(longestRetryMs, firstRetryMs * 2 ** Math.max(0, failures - 1));
  return Math.round(wait * (0.8 + 0.2 * random));
}

/** An address that pictures come from without a device. */
interface PictureAddress {
  readonly secure: boolean;
  readonly host: string;
  readonly port: number;
  readonly path: string;
}

/** What is wrong with an address that somebody has typed, and what to do. */
export const addressProblems = {
  'no-url': 'Enter a complete address, such as http://10.0.5.20/video.',
  'not-http': 'The address must begin with http:// or https://.',
  'sign-in-in-url':
    'Leave user name and password out of the address, where everybody who sees the page could read them. Patch the camera as a device instead.',
} as const;
type AddressProblem = keyof typeof addressProblems;

/** Reads an address that somebody has typed: `http://` or `https://`, a host, and what follows. */
export function readPictureAddress(text: string): PictureAddress | AddressProblem {
  let url: URL;
  try {
    url = new URL(text.trim());
  } catch {
    return 'no-url';
  }
  if (url.protocol !== 'http:' && url.protocol !== 'https:') return 'not-http';
  // It would be saved with the page for everybody to read.
  if (url.username !== '' || url.password !== '') return 'sign-in-in-url';
  const secure = url.protocol === 'https:';
  const port = url.port === '' ? (secure ? 443 : 80) : Number(url.port);
  return { secure, host: url.hostname.replace(/^\[|\]$/g, ''), port, path: `${url.pathname}${url.search}` };
}
