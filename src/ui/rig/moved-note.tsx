import type { DeviceStatus } from '../../core/live';
import type { DeskView, DeviceRecord, Edit } from '../../core/show';
import { useDesk } from '../desk';
import { Button } from '../kit';

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly live: DeviceStatus | undefined;
}

const noteClass = 'flex flex-wrap items-center gap-3 border-l-4 border-warning pl-2.5 text-[14px]';

/** Says that a device has another address now, or that another device has its address, and offers to put it right. */
export function MovedNote({ show, device, live }: Props) {
  const desk = useDesk();
  const { data } = device;
  if (live?.movedTo !== undefined) {
    const { movedTo } = live;
    const edit: Edit = { title: `${data.tag} moved to ${movedTo}`, changes: [withHost(device, movedTo)] };
    return (
      <p className={noteClass} role="status">
        <span>
          {data.tag} was seen at <span data-veil>{movedTo}</span> (same hardware address).
        </span>
        <Button onClick={() => void desk.edit(edit)}>Use this address</Button>
      </p>
    );
  }
  const other = show.records.find(
    (record): record is DeviceRecord => record.kind === 'device' && record.id === live?.answersAs,
  );
  if (!other) return null;
  const edit: Edit = {
    title: `Swap addresses of ${data.tag} and ${other.data.tag}`,
    changes: [withHost(device, other.data.host), withHost(other, data.host)],
  };
  return (
    <p className={noteClass} role="status">
      <span>
        The device at this address has the hardware address of {other.data.tag}. The two may have swapped addresses.
      </span>
      <Button onClick={() => void desk.edit(edit)}>{`Swap addresses with ${other.data.tag}`}</Button>
    </p>
  );
}

const withHost = (device: DeviceRecord, host: string): Edit['changes'][number] => ({
  op: 'update',
  from: device,
  to: { ...device, data: { ...device.data, host } },
});
