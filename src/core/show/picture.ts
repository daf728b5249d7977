import { z } from 'zod';
import { fail, ok, type Result } from '../result';
import type { ControlRecord, ShowRecord } from './records';

/** The most bytes of a scaled picture. */
export const maxPictureBytes = 400_000;
/** It is scaled into this, in pixels: what the largest control shows on a fine screen. */
export const pictureSize = { width: 480, height: 360 } as const;

const types = ['image/png', 'image/jpeg', 'image/webp'] as const;
export type PictureType = (typeof types)[number];

/** A picture of the show in a file: kept once, by the SHA-256 of its bytes. */
export const pictureSchema = z.strictObject({
  hash: z.string().regex(/^[0-9a-f]{64}$/, 'a SHA-256 in hexadecimal digits'),
  type: z.enum(types),
  base64: z
    .string()
    .max(Math.ceil(maxPictureBytes / 3) * 4)
    .regex(/^[A-Za-z0-9+/]*={0,2}$/, 'base64'),
});
export type Picture = z.infer<typeof pictureSchema>;

/**
 * What kind of picture these bytes are, by how they begin: PNG (ISO/IEC 15948, 5.2), JPEG (ITU-T T.81, B.1.1.3) or WebP (RFC 9649, 2.4).
 * Others are refused, with what they seem to be.
 */
export function pictureType(bytes: Uint8Array): Result<PictureType, string> {
  if (bytes.length > maxPictureBytes)
    return fail(`It has ${Math.round(bytes.length / 1000)} kB once scaled; ${maxPictureBytes / 1000} kB is the most.`);
  const starts = (text: string, at = 0) => [...text].every((c, n) => bytes[at + n] === c.charCodeAt(0));
  if (starts('\x89PNG\r\n\x1a\n')) return ok('image/png');
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return ok('image/jpeg');
  if (starts('RIFF') && starts('WEBP', 8)) return ok('image/webp');
  const what = starts('GIF8')
    ? 'a GIF'
    : starts('%PDF')
      ? 'a PDF'
      : starts('<')
        ? 'a drawing or a web page'
        : starts('BM')
          ? 'a BMP'
          : 'no picture that is known here';
  return fail(`It is ${what}. Use PNG, JPEG or WebP.`);
}

/** The pictures that a record shows, by their hashes. */
export function picturesOfRecord(record: ShowRecord): string[] {
  if (record.kind === 'control') return picturesOfControl(record.data);
  if (record.kind !== 'preset' && record.kind !== 'snapshot') return [];
  const { picture, before } = record.data;
  return [picture, before?.picture].filter((hash) => hash !== undefined);
}

/** The pictures that a control shows, by their hashes: its own, and those of its rules on every shift level. */
export const picturesOfControl = ({ picture, lamps, shifts = {} }: ControlRecord['data']): string[] => [
  ...(picture ? [picture] : []),
  ...Object.values(shifts).flatMap((own) => own.picture ?? []),
  ...[lamps, ...Object.values(shifts).map((own) => own.lamps ?? [])].flat().flatMap((rule) => rule.picture ?? []),
];
