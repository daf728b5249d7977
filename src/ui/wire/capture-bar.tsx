'use client';

import type { CapturePart } from '../../core/capture';
import { VeiledText } from '../parts';
import { Button, FileDrop, Progress, Select, type SelectOption } from '../kit';
import type { CaptureVerbs } from './use-capture';

interface Props extends CaptureVerbs {
  readonly tagOf: (device: string) => string | undefined;
  /** The id of the conversation that is shown; all of them where it is empty. */
  readonly part: string;
  readonly onPart: (id: string) => void;
}

/** The line below the tools of the wire while a capture is chosen, read or looked at. */
export function CaptureBar({ capture, open, close, tagOf, part, onPart }: Props) {
  switch (capture.at) {
    case 'none':
      return null;
    case 'choosing':
      return (
        <div className="mb-2.5 grid gap-1.5">
          <div className="flex items-center gap-2.5">
            <div className="min-w-0 flex-1">
              <FileDrop
                label="A packet capture, pcapng or pcap. The drivers of this rig decode it."
                accept=".pcapng,.pcap,.cap"
                onFile={open}
              />
            </div>
            <Button onClick={close}>Cancel</Button>
          </div>
          {capture.refusal !== undefined && (
            <p role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
              {capture.refusal}
            </p>
          )}
        </div>
      );
    case 'reading':
      return (
        <div className="mb-2.5 flex items-center gap-2.5" role="status">
          <span>Reading {capture.name} …</span>
          <Progress label={`Reading ${capture.name}`} part={undefined} />
          <Button onClick={close}>Cancel</Button>
        </div>
      );
    case 'open': {
      const { name, reading } = capture;
      const { packets, parts, cutAt, isLong, rows } = reading;
      const options: SelectOption[] = [
        { value: all, title: `all ${parts.length}` },
        ...parts.map((each, n) => ({ value: String(n), title: partTitle(each, n, tagOf) })),
      ];
      const chosen = parts.findIndex(({ id }) => id === part);
      return (
        <div
          className="mb-2.5 flex flex-wrap items-center gap-x-3.5 gap-y-1.5 border-y border-rule py-1.5"
          role="status"
        >
          <strong>{name}</strong>
          <span className="text-ink-soft">
            {packets.toLocaleString('en')} packets{rows.length === 0 ? ', none of them TCP or UDP with content' : ''}
            {cutAt === undefined ? '' : `; the file breaks off at byte ${cutAt.toLocaleString('en')}`}
            {isLong ? `; the first ${rows.length.toLocaleString('en')} messages are shown` : ''}
          </span>
          <Select
            label="Conversation"
            labelAt="before"
            options={options}
            value={chosen === -1 ? all : String(chosen)}
            onChoose={(value) => onPart(value === all ? '' : (parts[Number(value)]?.id ?? ''))}
          />
          {parts[chosen] && (
            <span className="text-ink-soft">
              <VeiledText text={`${parts[chosen].caller.address} to ${parts[chosen].called.address}`} />
            </span>
          )}
          <Button className="ml-auto" onClick={close}>
            Back to the live wire
          </Button>
        </div>
      );
    }
  }
}

const all = 'all';

/** Without addresses, which the veil may have to cover. */
function partTitle(
  { transport, called, device, rows, missing }: CapturePart,
  n: number,
  tagOf: Props['tagOf'],
): string {
  const tag = device && tagOf(device.id);
  const name = tag === undefined ? `conversation ${n + 1}` : `${tag}${device?.isExact ? '' : ' by its port'}`;
  const lost = missing > 0 ? `, ${missing} bytes missing` : '';
  return `${name}: ${transport.toUpperCase()} port ${called.port} (${rows}${lost})`;
}
