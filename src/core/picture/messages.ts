import { z } from 'zod';
import { fail, ok, type Result } from '../result';

/** The most pictures that one screen follows at a time. */
const maxFollowed = 100;

/** A key by which a screen asks for a picture: the engine hands it out with the face that shows the picture. */
export const pictureKeySchema = z.string().regex(/^[A-Za-z0-9_-]{22}$/);

/** What a screen says to the relay of pictures. */
export const viewerMessageSchema = z.discriminatedUnion('t', [
  /** Everything that it shows now, with the width in pixels at which it does. What is not named is not shown any more. */
  z.strictObject({
    t: z.literal('show'),
    pictures: z
      .array(z.strictObject({ key: pictureKeySchema, width: z.number().int().min(1).max(8192) }))
      .max(maxFollowed),
  }),
  /** It has drawn the picture with this number and takes the next. */
  z.strictObject({ t: z.literal('drawn'), key: pictureKeySchema, n: z.number().int().min(0) }),
]);
export type ViewerMessage = z.infer<typeof viewerMessageSchema>;

/** Why there is no picture, or no new one. */
export const pictureProblems = {
  'not-connected': 'The device is not connected.',
  'no-address': 'The device has not reported the address of its picture yet.',
  unreachable: 'Nothing answers at the address of the picture.',
  refused: 'The picture was refused.',
  'sign-in': 'The device asks for a user name and password for its picture, or the ones given are wrong.',
  'no-picture': 'The data received is not a picture.',
  'too-large': 'The picture is too large.',
  late: 'No picture arrived in time.',
  ended: 'The stream of pictures ended.',
} as const;
export type PictureProblem = keyof typeof pictureProblems;

/** What the relay says to a screen besides the pictures themselves. */
export type RelayMessage =
  /** The relay’s time, in milliseconds since 1970. */
  | { readonly t: 'hello'; readonly now: number }
  | {
      readonly t: 'problem';
      readonly key: string;
      readonly why: PictureProblem;
      readonly detail: string;
      /** When it is tried again, by the relay’s time; nothing where that depends on something else. */
      readonly againAt?: number;
    }
  /** The source has handed out the picture that was sent last once more, at this time. */
  | { readonly t: 'same'; readonly key: string; readonly at: number }
  /** There is no such picture, or not any more. */
  | { readonly t: 'unknown'; readonly key: string };

/** What stands before the bytes of a picture. */
export interface PictureHead {
  readonly key: string;
  /** Counts the pictures of this key on this connection. */
  readonly n: number;
  /** When it came from the device, by the relay’s time. */
  readonly at: number;
  readonly type: string;
}

/**
 * A picture as it goes to a screen.
 *
 *     length of the head (2 bytes, most significant first) | head (JSON, UTF-8) | bytes of the picture
 */
export function encodePicture(head: PictureHead, bytes: Uint8Array): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(head));
  const whole = new Uint8Array(2 + text.length + bytes.length);
  whole[0] = text.length >> 8;
  whole[1] = text.length & 255;
  whole.set(text, 2);
  whole.set(bytes, 2 + text.length);
  return whole;
}

/** The inverse. What the relay sends is trusted to have its shape, once it is whole. */
export function decodePicture(
  whole: Uint8Array,
): Result<{ readonly head: PictureHead; readonly bytes: Uint8Array }, 'cut-off'> {
  const [high = 0, low = 0] = whole;
  const size = high * 256 + low;
  if (whole.length < 2 + size || size === 0) return fail('cut-off');
  const head = JSON.parse(new TextDecoder().decode(whole.subarray(2, 2 + size))) as PictureHead;
  return ok({ head, bytes: whole.subarray(2 + size) });
}
