import { pictureSize } from '../core/show';
import { fail, ok, type Result } from '../core/result';

/** A picture with more pixels than this is not read: a small file can hold a very large one. */
const mostPixels = 40_000_000;

/** A picture of a device, of any usual type, as a small JPEG for tiles. Fails, with a sentence, where the bytes are no picture. */
export async function scaledPicture(bytes: Uint8Array): Promise<Result<Uint8Array, string>> {
  try {
    // It is native and large: only who scales a picture loads it.
    const { default: sharp } = await import('sharp');
    const scaled = sharp(bytes, { limitInputPixels: mostPixels })
      .rotate()
      .resize({ ...pictureSize, fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#000' })
      .jpeg({ quality: 82 });
    return ok(await scaled.toBuffer());
  } catch {
    return fail('The device sent data that is not a valid picture.');
  }
}
