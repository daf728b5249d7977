import { fetchPictures, saveJson } from '../parts';
import { pageFileOf, pageFileText, zoneFileOf, type PageFile } from '../../core/exchange';
import type { PageRecord, ShowRecord, Zone } from '../../core/show';

/** Hands pages over as a file that the browser saves. */
export async function savePages(
  records: readonly ShowRecord[],
  pages: readonly PageRecord[],
  name: string,
): Promise<void> {
  save(pageFileOf(records, pages, await fetchPictures(records)), name);
}

export async function saveZone(records: readonly ShowRecord[], page: PageRecord, zone: Zone): Promise<void> {
  save(zoneFileOf(records, page, zone, await fetchPictures(records)), zone.title);
}

const save = (file: PageFile, name: string): void =>
  saveJson(`${name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase() || 'pages'}.pages.json`, pageFileText(file));
