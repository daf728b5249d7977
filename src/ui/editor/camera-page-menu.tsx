'use client';

import { cameraPageEdit, cameraPagesEdit, isSteered } from '../../core/page';
import type { DeskView, DeviceRecord, Edit } from '../../core/show';
import { driverOfDevice } from '../desk';
import { Button, Menu } from '../kit';
import { newId } from '../parts';

interface Props {
  readonly show: DeskView;
  readonly onMake: (edit: Edit, page: string) => void;
}

/** Makes a page to work cameras with: for one, or for all with their numbers to pick from. */
export function CameraPageMenu({ show, onMake }: Props) {
  const documentOf = (device: string) => driverOfDevice(show, device);
  const cameras = show.records.filter(
    (each): each is DeviceRecord => each.kind === 'device' && isSteered(documentOf(each.id)),
  );
  if (cameras.length === 0) return null;
  const sources = { records: show.records, documentOf, newId };
  const make = (chosen: readonly DeviceRecord[], name: string) => {
    const made = cameraPageEdit(chosen, name, sources);
    if (made) onMake(made.edit, made.page.id);
  };
  const makeEach = () => {
    const made = cameraPagesEdit(cameras, sources);
    if (made?.pages[0]) onMake(made.edit, made.pages[0].id);
  };
  const all = { title: `All ${cameras.length} cameras, with a pick`, run: () => make(cameras, 'Camera work') };
  const each = { title: `A page for each of ${cameras.length} cameras`, run: makeEach };
  const single = cameras.slice(0, 12).map((camera) => ({
    title: `${camera.data.tag} ${camera.data.name}`,
    run: () => make([camera], camera.data.name),
  }));
  return (
    <Menu acts={cameras.length > 1 ? [all, each, ...single] : single}>
      <Button>New camera page</Button>
    </Menu>
  );
}
