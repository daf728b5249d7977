import { fail, ok, type Result } from '../../core/result';
import { picturesOfRecord, type Picture, type ShowRecord } from '../../core/show';

/** The pictures of the show for a file, where any of these records has one. */
export async function fetchPictures(records: readonly ShowRecord[]): Promise<readonly Picture[]> {
  if (!records.some((record) => picturesOfRecord(record).length > 0)) return [];
  const answer = await fetch('/desk/pictures').catch(() => undefined);
  return answer?.ok ? ((await answer.json()) as Picture[]) : [];
}

/** Stores the pictures of a file. They go first, so that whatever shows one finds it. False when one was not stored. */
export async function storePictures(pictures: readonly Picture[]): Promise<boolean> {
  for (const { base64 } of pictures) {
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
    const answer = await fetch('/desk/pictures', { method: 'POST', body: bytes }).catch(() => undefined);
    if (!answer?.ok) return false;
  }
  return true;
}

/** Fetches a picture from a device and keeps it in the show; resolves with its hash, or with the reason why there is none. */
export async function takePicture(device: string, still: string): Promise<Result<string, string>> {
  const answer = await fetch('/desk/pictures/fetched', {
    method: 'POST',
    body: JSON.stringify({ device, still }),
  }).catch(() => undefined);
  if (!answer) return fail('The program does not answer.');
  const said = (await answer.json()) as { readonly hash?: string; readonly message?: string };
  return said.hash === undefined ? fail(said.message ?? 'The device sent no picture.') : ok(said.hash);
}
