import sharp from 'sharp';
import type { FeedPicture } from './feed';

/** The widths at which pictures are handed out: screens of nearly the same size share one. */
const steps = [160, 240, 320, 480, 640, 960, 1280, 1920];

export const stepFor = (width: number): number => steps.find((step) => step >= width) ?? Infinity;

/** A picture that is this much wider than wanted is made smaller: what lies between is not worth the work. */
const worthwhile = 1.4;

sharp.concurrency(1);
sharp.cache(false);

/** The picture at about a width, never wider than it is. One that cannot be read is handed on as it is: the screen says what is wrong with it. */
export async function atWidth(picture: FeedPicture, width: number): Promise<FeedPicture> {
  if (!Number.isFinite(width) || !/^image\/(jpeg|png|webp)$/.test(picture.type)) return picture;
  try {
    const image = sharp(picture.bytes, { limitInputPixels: 40_000_000, failOn: 'none' });
    const { width: own = 0 } = await image.metadata();
    if (own <= width * worthwhile) return picture;
    const bytes = await image.resize(width).jpeg({ quality: 75 }).toBuffer();
    return { ...picture, type: 'image/jpeg', bytes };
  } catch {
    return picture;
  }
}
