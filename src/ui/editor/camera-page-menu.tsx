'use client';

import { cameraPageEdit, isSteered } from '../../core/page';
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
  const make = (chosen: readonly DeviceRecord[], name: string) => {
    const made = cameraPageEdit(chosen, name, { records: show.records, documentOf, newId });
    if (made) onMake(made.edit, made.page.id);
  };
  const all = { title: `All ${cameras.length} cameras, with a pick`, run: () => make(cameras, 'Camera work') };
  const single = cameras.slice(0, 12).map((camera) => ({
    title: `${camera.data.tag} ${camera.data.name}`,
    run: () => make([camera], camera.data.name),
  }));
  return (
    <Menu acts={cameras.length > 1 ? [all, ...single] : single}>
      <Button>New camera page</Button>
    </Menu>
  );
}
