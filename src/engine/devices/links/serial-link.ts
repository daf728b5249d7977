import type { SerialPort } from 'serialport';
import type { DriverDocument } from '../../../core/driver';
import type { DownCause } from '../../../core/session';
import type { Exchange, Outgoing } from '../../../core/wire';
import { maxUnsentBytes, stuck, type DeviceLink, type LinkAddress, type LinkEvents, type Written } from './link';
import { StreamReader } from './stream-reader';

/** The longest wait for written bytes to leave before the port is closed. */
const drainMs = 300;

const parities = { N: 'none', E: 'even', O: 'odd', M: 'mark', S: 'space' } as const;

/** Line settings from their usual notation: `8N1` means eight data bits, no parity, one stop bit. */
export function lineSettings({ baudRate, format, flow }: NonNullable<DriverDocument['link']['serial']>) {
  const [, bits = '8', parity = 'N', stop = '1'] = /^([5-8])([NEOMS])(1|1\.5|2)$/.exec(format) ?? [];
  return {
    baudRate,
    dataBits: Number(bits) as 5 | 6 | 7 | 8,
    parity: parities[parity as keyof typeof parities],
    stopBits: Number(stop) as 1 | 1.5 | 2,
    rtscts: flow === 'rts-cts',
    xon: flow === 'xon-xoff',
    xoff: flow === 'xon-xoff',
  };
}

/** A connection over a serial port of this computer. An open port proves nothing about the device behind it. */
export class SerialLink implements DeviceLink {
  readonly proves = false;
  private port: SerialPort | undefined;
  private isEnded = false;
  private readonly reader: StreamReader;

  constructor(
    { host }: LinkAddress,
    serial: NonNullable<DriverDocument['link']['serial']>,
    private readonly exchange: Exchange,
    private readonly events: LinkEvents,
  ) {
    this.reader = new StreamReader(exchange, events);
    // Loaded on demand: without the native library everything else still works.
    import('serialport').then(
      ({ SerialPort }) => {
        if (this.isEnded) return;
        const port = new SerialPort({ path: host, ...lineSettings(serial), autoOpen: false, lock: true });
        this.port = port;
        port.on('data', (chunk: Uint8Array) => this.reader.read(chunk));
        port.on('error', this.onError);
        port.on('close', this.onClose);
        port.open((error) => {
          if (error) return this.onError(error);
          if (this.isEnded) return closeWhenSent(port);
          this.events.onOpen();
        });
      },
      (error: unknown) => this.end('other', `Serial ports are not supported on this computer: ${String(error)}`),
    );
  }

  write(message: Outgoing, ref: number): Written {
    const bytes = this.exchange.write(message, ref);
    if (!bytes.ok) return { ok: false, stuck: false, reason: bytes.error };
    if (!this.port) return { ok: false, stuck: false, reason: 'The serial port is not open.' };
    this.port.write(bytes.value);
    return this.port.writableLength > maxUnsentBytes ? stuck : { ok: true, bytes: bytes.value };
  }

  forget(ref: number): void {
    this.exchange.forget(ref);
  }

  pause(): void {
    this.port?.pause();
  }

  resume(): void {
    this.port?.resume();
  }

  rest(): Uint8Array {
    return this.exchange.rest();
  }

  close(): void {
    if (this.isEnded) return;
    this.isEnded = true;
    this.reader.stop();
    if (this.port?.isOpen) closeWhenSent(this.port);
  }

  private readonly onError = (error: Error): void => this.end(causeOfSerialError(error.message), error.message);
  private readonly onClose = (error: (Error & { disconnected?: boolean }) | null | undefined): void =>
    this.end(error?.disconnected ? 'serial-unplugged' : 'closed');

  private end(cause: DownCause, detail?: string): void {
    if (this.isEnded) return;
    this.reader.flush();
    this.close();
    this.events.onEnd(cause, detail);
  }
}

/** What was written last, a stop perhaps, still goes out; after a moment the port is closed either way. */
function closeWhenSent(port: SerialPort): void {
  let isClosing = false;
  const close = () => {
    if (isClosing || !port.isOpen) return;
    isClosing = true;
    clearTimeout(timer);
    // An error means that the adapter was unplugged meanwhile.
    port.close(() => undefined);
  };
  const timer = setTimeout(close, drainMs);
  port.drain(close);
}

/**
 * Maps an error to its cause. The library gives no error code, only a sentence: strerror(3) on Linux and macOS, its own words on Windows. So this is the
 * one place that looks at an error's text.
 */
function causeOfSerialError(message: string): DownCause {
  if (/cannot lock port|resource busy|device or resource busy|access denied/i.test(message)) return 'serial-taken';
  if (/permission denied|operation not permitted/i.test(message)) return 'serial-denied';
  if (/no such (file|device)|file not found|unknown error code 433/i.test(message)) return 'serial-missing';
  return 'other';
}
