import { saveJson } from '../parts';
import { pageFileOf, pageFileText, zoneFileOf, type PageFile } from '../../core/exchange';
import { picturesOfRecord, type PageRecord, type Picture, type ShowRecord, type Zone } from '../../core/show';

/** Hands pages over as a file that the browser saves. */
export async function savePages(
  records: readonly ShowRecord[],
  pages: readonly PageRecord[],
  name: string,
): Promise<void> {
  save(pageFileOf(records, pages, await pictures(records)), name);
}

export async function saveZone(records: readonly ShowRecord[], page: PageRecord, zone: Zone): Promise<void> {
  save(zoneFileOf(records, page, zone, await pictures(records)), zone.title);
}

/** The pictures of the show, where any control has one. */
async function pictures(records: readonly ShowRecord[]): Promise<readonly Picture[]> {
  if (!records.some((record) => picturesOfRecord(record).length > 0)) return [];
  const answer = await fetch('/desk/pictures');
  return answer.ok ? ((await answer.json()) as Picture[]) : [];
}

const save = (file: PageFile, name: string): void =>
  saveJson(`${name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase() || 'pages'}.pages.json`, pageFileText(file));
