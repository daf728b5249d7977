import sharp from 'sharp';
import type { StandinSite } from './http';

type Picturing = Required<Pick<StandinSite, 'still'>> & Pick<StandinSite, 'watch'>;

interface Wanted {
  /** In pixels, for a JPEG; without it the drawing itself. */
  readonly width?: number | undefined;
  /** Which of several pictures. */
  readonly view?: string | undefined;
}

const boundary = 'next-picture';
/** What moves is drawn anew ten times a second, what stands still once. */
const fastestMs = 100;
const slowestMs = 1000;

/** A picture as the stand-in draws it, or as JPEG at a width. */
async function draw({ still }: Picturing, { width, view }: Wanted) {
  const svg = Buffer.from(still(view));
  if (width === undefined) return { type: 'image/svg+xml', bytes: svg };
  const bytes = await sharp(svg).resize(width).flatten({ background: '#000' }).jpeg({ quality: 80 }).toBuffer();
  return { type: 'image/jpeg', bytes };
}

/** One picture. */
export async function stillOf(site: Picturing, wanted: Wanted): Promise<Response> {
  const { type, bytes } = await draw(site, wanted);
  return new Response(Uint8Array.from(bytes), { headers: { 'content-type': type, 'cache-control': 'no-store' } });
}

/** A stream of pictures that replace one another (RFC 2046, 5.1), each when it has changed. */
export function streamOf(site: Picturing, wanted: Wanted): Response {
  let isOver = false;
  let isDirty = true;
  let timer: NodeJS.Timeout | undefined;
  let unwatch: () => void = () => undefined;
  const body = new ReadableStream<Uint8Array>({
    start(stream) {
      let sentAt = 0;
      const look = async () => {
        const isDue = isDirty || performance.now() - sentAt >= slowestMs;
        // Who reads slowly gets fewer.
        if (isDue && (stream.desiredSize ?? 0) > 0) {
          isDirty = false;
          sentAt = performance.now();
          const { type, bytes } = await draw(site, wanted);
          if (isOver) return;
          const head = `--${boundary}\r\nContent-Type: ${type}\r\nContent-Length: ${bytes.length}\r\n\r\n`;
          stream.enqueue(Buffer.concat([Buffer.from(head), bytes, Buffer.from('\r\n')]));
        }
        timer = setTimeout(() => void look(), fastestMs);
      };
      unwatch = site.watch(() => (isDirty = true));
      void look();
    },
    cancel() {
      isOver = true;
      clearTimeout(timer);
      unwatch();
    },
  });
  const type = `multipart/x-mixed-replace; boundary=${boundary}`;
  return new Response(body, { headers: { 'content-type': type, 'cache-control': 'no-store' } });
}
