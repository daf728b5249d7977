import { tallyState, type DeviceRecord, type Edit, type PageRecord, type RecordChange } from '../show';
import { cameraPageEdit, type CameraPageSources } from './camera-page';

/**
 * A page for each of these cameras. Where a camera is the source of an input, its page is called while it is next on air, so that panels
 * that follow go with what is selected at the switcher. Returns the pages in the order of the cameras.
 */
export function cameraPagesEdit(
  cameras: readonly DeviceRecord[],
  sources: CameraPageSources,
): { readonly edit: Edit; readonly pages: readonly PageRecord[] } | undefined {
  const pages: PageRecord[] = [];
  const changes: RecordChange[] = [];
  for (const camera of cameras) {
    // The pages that are made already count, so that each comes after the one before and has a name of its own.
    const made = cameraPageEdit([camera], camera.data.name, { ...sources, records: [...sources.records, ...pages] });
    if (!made) continue;
    const isTied = sources.records.some(({ kind, data }) => kind === 'tie' && data.source === camera.id);
    const when = { op: 'equals' as const, reading: { device: camera.id, key: tallyState }, to: 'next' };
    const page: PageRecord = isTied ? { ...made.page, data: { ...made.page.data, calledBy: { when } } } : made.page;
    pages.push(page);
    const isPage = (each: RecordChange) => each.op === 'add' && each.record.id === page.id;
    changes.push(...made.edit.changes.map((each) => (isPage(each) ? { op: 'add' as const, record: page } : each)));
  }
  if (pages.length === 0) return undefined;
  return { pages, edit: { title: `Add a page for each of ${pages.length} cameras`, changes } };
}
