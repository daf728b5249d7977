'use client';

import { useEffect, useRef, useState } from 'react';
import type { CapturePart, CaptureReading } from '../../../core/capture';
import { piecesOf, type Piece } from '../../../core/learn';
import type { WireRow } from '../../../core/live';
import { fromHex } from '../../../core/wire';
import { useShow } from '../../desk';
import { Button, FileDrop, Progress, Segmented, Select } from '../../kit';
import { useWireNowAndThen } from '../../live';
import { readCaptureFile } from '../../parts';
import type { Material } from './use-frames';

type Way = 'paste' | 'capture' | 'wire';
const ways = [
  { value: 'paste', title: 'Paste' },
  { value: 'capture', title: 'Packet capture' },
  { value: 'wire', title: 'Wire of a device' },
] as const;

interface Props {
  readonly onBring: (material: Material) => void;
}

/** Brings bytes to the bench: pasted, from a packet capture, or from the wire of a device of the rig. */
export function BringFrames({ onBring }: Props) {
  const [way, setWay] = useState<Way>('paste');
  return (
    <section className="grid gap-2.5" aria-label="Add bytes">
      <Segmented label="Bytes from" options={ways} value={way} onChoose={setWay} />
      {way === 'paste' && <Paste onBring={onBring} />}
      {way === 'capture' && <FromCapture onBring={onBring} />}
      {way === 'wire' && <FromWire onBring={onBring} />}
    </section>
  );
}

const endings = [
  { value: '\r\n', title: 'CR LF' },
  { value: '\n', title: 'LF' },
  { value: '\r', title: 'CR' },
  { value: '', title: 'nothing' },
] as const;
type Ending = (typeof endings)[number]['value'];

function Paste({ onBring }: Props) {
  const [text, setText] = useState('');
  const [ending, setEnding] = useState<Ending>('\r\n');
  const [wrong, setWrong] = useState('');
  const take = () => {
    const read = piecesOf(text, ending);
    setWrong(read.ok ? '' : read.error);
    if (read.ok) onBring({ pieces: read.value, transport: 'tcp', port: 0, from: 'what was pasted' });
  };
  return (
    <div className="grid gap-2">
      <label className="grid gap-1 text-[14px]">
        <span className="text-ink-soft">
          One message a line: hexadecimal digits, or text with escapes such as \r. Begin with &gt; for what is sent.
        </span>
        <textarea
          value={text}
          rows={7}
          spellCheck={false}
          className="font-mono text-[13px]"
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <div className="flex flex-wrap items-end gap-2.5">
        <Select label="Line ending" labelAt="before" options={endings} value={ending} onChoose={setEnding} />
        <Button kind="strong" onClick={take} disabled={text.trim() === ''}>
          Take these messages
        </Button>
      </div>
      {wrong && <Refusal text={wrong} />}
    </div>
  );
}

const Refusal = ({ text }: { readonly text: string }) => (
  <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink" role="alert">
    {text}
  </p>
);

type CaptureState =
  | { readonly at: 'none'; readonly refusal: string }
  | { readonly at: 'reading'; readonly name: string }
  | { readonly at: 'open'; readonly name: string; readonly reading: CaptureReading };

function FromCapture({ onBring }: Props) {
  const [state, setState] = useState<CaptureState>({ at: 'none', refusal: '' });
  const [part, setPart] = useState('0');
  const ending = useRef<() => void>(undefined);
  useEffect(() => () => ending.current?.(), []);
  const open = (file: File) => {
    ending.current?.();
    setState({ at: 'reading', name: file.name });
    ending.current = readCaptureFile(
      file,
      [],
      (reading) => {
        setPart('0');
        setState({ at: 'open', name: file.name, reading });
      },
      (refusal) => setState({ at: 'none', refusal }),
    );
  };
  if (state.at === 'reading')
    return (
      <div className="flex items-center gap-2.5" role="status">
        <span>Reading {state.name} …</span>
        <Progress label={`Reading ${state.name}`} part={undefined} />
        <Button
          onClick={() => {
            ending.current?.();
            setState({ at: 'none', refusal: '' });
          }}
        >
          Cancel
        </Button>
      </div>
    );
  if (state.at === 'none')
    return (
      <div className="grid gap-1.5">
        <FileDrop label="A packet capture, pcapng or pcap" accept=".pcapng,.pcap,.cap" onFile={open} />
        {state.refusal && <Refusal text={state.refusal} />}
      </div>
    );
  const { reading, name } = state;
  const chosen = reading.parts[Number(part)];
  const take = () => {
    if (!chosen) return;
    const rows = reading.rows.filter(({ device }) => device === chosen.id);
    onBring({ pieces: rows.flatMap(pieceOf), transport: chosen.transport, port: chosen.called.port, from: name });
  };
  return (
    <div className="grid gap-2" role="status">
      <p>
        <strong>{name}</strong>{' '}
        <span className="text-ink-soft">
          {reading.packets.toLocaleString('en')} packets
          {reading.cutAt === undefined ? '' : `; the file breaks off at byte ${reading.cutAt.toLocaleString('en')}`}
        </span>
      </p>
      {reading.parts.length === 0 ? (
        <p>It holds no TCP or UDP conversation with content.</p>
      ) : (
        <div className="flex flex-wrap items-end gap-2.5">
          <Select
            label="Conversation"
            options={reading.parts.map((each, n) => ({ value: String(n), title: titleOf(each) }))}
            value={part}
            onChoose={setPart}
          />
          <Button kind="strong" onClick={take}>
            Take this conversation
          </Button>
        </div>
      )}
      <Button className="justify-self-start" onClick={() => setState({ at: 'none', refusal: '' })}>
        Open another capture
      </Button>
    </div>
  );
}

const titleOf = ({ transport, called, rows }: CapturePart): string =>
  `${transport.toUpperCase()} port ${called.port}, ${rows} ${rows === 1 ? 'message' : 'messages'}`;

function pieceOf({ dir, hex }: WireRow): Piece[] {
  const bytes = fromHex(hex);
  return dir === 'note' || !bytes.ok || bytes.value.length === 0 ? [] : [{ dir, bytes: bytes.value }];
}

function FromWire({ onBring }: Props) {
  const { show } = useShow();
  const wire = useWireNowAndThen(1000);
  const devices = (show?.records ?? []).flatMap((record) => (record.kind === 'device' ? [record] : []));
  const [device, setDevice] = useState('');
  const chosen = devices.find(({ id }) => id === device);
  const rows = (wire?.rows ?? []).filter((row) => row.device === device && row.dir !== 'note');
  const take = () => {
    if (!chosen) return;
    const { link } = show?.drivers.find(({ id }) => id === chosen.data.driver) ?? {};
    const transport = link?.kind === 'udp' ? 'udp' : link?.kind === 'serial' ? 'serial' : 'tcp';
    onBring({ pieces: rows.flatMap(pieceOf), transport, port: chosen.data.port, from: chosen.data.tag });
  };
  if (devices.length === 0) return <p className="text-ink-soft">There is no device in the rig yet.</p>;
  return (
    <div className="flex flex-wrap items-end gap-2.5">
      <Select
        label="Device"
        options={devices.map(({ id, data }) => ({ value: id, title: `${data.tag} ${data.name}` }))}
        value={device}
        onChoose={setDevice}
      />
      <Button kind="strong" disabled={rows.length === 0} onClick={take}>
        Take {rows.length === 1 ? '1 message' : `${rows.length} messages`}
      </Button>
    </div>
  );
}
