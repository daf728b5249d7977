'use client';

import { namesDevices } from '../../core/page';
import { drivenBy, type ControlRecord, type DeviceRecord, type ReadingRef, type Zone } from '../../core/show';
import { ReadingPicker } from '../fields';
import { useFacts } from './facts';
import { formPartClass, Select } from '../kit';

type Pick = NonNullable<Zone['pick']>;

interface Props {
  readonly zone: Zone;
  readonly controls: readonly ControlRecord[];
  readonly onPut: (zone: Zone) => void;
}

/** Lets a zone drive one of several devices of the same kind: picked on the panel, or going with a reading. */
export function PickFields({ zone, controls, onPut }: Props) {
  const { devices, lackingWith } = useFacts();
  const { pick } = zone;
  const made = pick?.devices[0] ?? drivenBy({ responses: { tap: [] }, ...controls[0]?.data })[0];
  const first = devices.find(({ id }) => id === made);
  if (!first) return <p className="text-ink-soft">A zone with controls can drive one of several devices.</p>;
  const alike = devices.filter(({ id, data }) => id !== first.id && data.role === first.data.role);
  const set = (ids: readonly string[]) => {
    const { pick: _, ...rest } = zone;
    onPut(ids.length === 0 ? rest : { ...rest, pick: { ...pick, devices: [first.id, ...ids] } });
  };
  const others = pick?.devices.slice(1) ?? [];
  return (
    <section className={formPartClass} aria-label="Pick">
      <h3>Pick</h3>
      <p className="col-span-full text-[13px] text-ink-soft">
        Its controls are made for {first.data.tag}. They drive whichever of these is picked:
      </p>
      {alike.map(({ id, data }) => (
        <label key={id} className="col-span-full flex flex-row items-center gap-2">
          <input
            type="checkbox"
            checked={others.includes(id)}
            onChange={(event) => set(event.target.checked ? [...others, id] : others.filter((each) => each !== id))}
          />
          {data.tag} {data.name}
        </label>
      ))}
      {others.map((id) => (
        <Lacking
          key={id}
          tag={devices.find((each) => each.id === id)?.data.tag ?? ''}
          lacking={controls.flatMap((control) => lackingWith(control, first.id, id))}
        />
      ))}
      {alike.length === 0 && <p>The rig has no other {first.data.role}.</p>}
      {pick && <FollowFields pick={pick} onPut={(to) => onPut({ ...zone, pick: to })} />}
    </section>
  );
}

/** The most readings that one pick follows. */
const mostFollowed = 8;

/** The readings that a pick follows, the most telling first, and what is picked while none of them names a device. */
function FollowFields({ pick, onPut }: { readonly pick: Pick; readonly onPut: (to: Pick) => void }) {
  const { documentOf } = useFacts();
  const follow = pick.follow ?? [];
  const put = (to: readonly ReadingRef[]) => {
    const { follow: _, whenNone, ...rest } = pick;
    onPut(to.length === 0 ? rest : { ...rest, follow: [...to], ...(whenNone ? { whenNone } : {}) });
  };
  const canName = ({ device, key }: { readonly device: DeviceRecord; readonly key: string }) =>
    namesDevices(documentOf(device.id), device.data.role, key);
  return (
    <>
      {[...follow, undefined].slice(0, mostFollowed).map((ref, n) => (
        <ReadingPicker
          key={n}
          label={n === 0 ? 'Follows' : 'Else follows'}
          chosen={ref}
          none={n === 0 ? 'Nothing: a person picks' : 'Nothing else'}
          only={canName}
          onPick={(to) => put(follow.toSpliced(n, 1, to))}
          onNone={ref && (() => put(follow.toSpliced(n, 1)))}
        />
      ))}
      {follow.length > 0 && (
        <>
          <Select
            label="When none of these names a device"
            value={pick.whenNone ?? 'first'}
            options={[
              { value: 'first', title: 'pick the first device' },
              { value: 'last', title: 'keep the last one' },
            ]}
            onChoose={(to) => {
              const { whenNone: _, ...rest } = pick;
              onPut(to === 'last' ? { ...rest, whenNone: to } : rest);
            }}
          />
          <p className="col-span-full text-[13px] text-ink-soft">
            The first reading that names one of these devices decides. The ties in the rig say which device is behind
            each input; a text names a device by its tag.
          </p>
        </>
      )}
    </>
  );
}

/** The most sentences that are shown of what a device lacks. */
const mostShown = 4;

/** What of the zone one of the devices that it picks does not have. */
function Lacking({ tag, lacking }: { readonly tag: string; readonly lacking: readonly string[] }) {
  const each = [...new Set(lacking)];
  if (each.length === 0) return null;
  return (
    <div className="col-span-full border-l-4 border-warning pl-2.5 text-[14px]" role="status">
      <ul>
        {each.slice(0, mostShown).map((message) => (
          <li key={message}>{message}</li>
        ))}
        {each.length > mostShown && <li>And {each.length - mostShown} more.</li>}
      </ul>
      <p className="text-ink-soft">Controls without a command are barred while {tag} is picked.</p>
    </div>
  );
}
