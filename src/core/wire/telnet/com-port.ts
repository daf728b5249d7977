import {
  answerOffset,
  command,
  comPort,
  flowControl,
  iac,
  maxSubnegotiation,
  parities,
  stopSizes,
  telnetOption,
} from './wire';

/** The line settings of a serial port. */
interface LineSettings {
  /** Bits a second. */
  readonly baudRate: number;
  /** Data bits, parity and stop bits: `8N1`. */
  readonly format: string;
  readonly flow: 'none' | 'rts-cts' | 'xon-xoff';
}

/** What the gateway says of its serial port. */
export type ComPortNews =
  /** Every setting was taken: bytes can be sent. */
  | { readonly is: 'ready' }
  /** There is no serial port behind this connection, or it cannot be set. */
  | { readonly is: 'refused' }
  /** The port has another setting than was asked for. */
  | { readonly is: 'different'; readonly what: string };

/** What came over the connection. */
interface ComPortReading {
  /** The bytes of the device. */
  readonly data: Uint8Array;
  /** To be sent back at once. */
  readonly answer: Uint8Array;
  readonly news: readonly ComPortNews[];
}

interface Asked {
  readonly title: string;
  readonly code: number;
  readonly value: readonly number[];
  readonly shown: (value: readonly number[]) => string;
}

/**
 * A serial port behind a TCP connection, by RFC 2217. It escapes what is sent, takes the protocol out of what comes, and sets the port. It does
 * no I/O and reads no clock; one is made for each connection.
 */
export class ComPort {
  private readonly asked: readonly Asked[];
  private readonly waiting: Set<number>;
  private state: 'data' | 'iac' | 'option' | 'sub' | 'sub-iac' = 'data';
  private verb = 0;
  private sub: number[] = [];
  private isOffered = false;
  private isRefused = false;

  constructor(settings: LineSettings) {
    this.asked = settingsOf(settings);
    this.waiting = new Set(this.asked.map(({ code }) => code));
  }

  /** What goes out first: bytes of eight bits both ways, and the wish to set the port. */
  hello(): Uint8Array {
    const { binary, suppressGoAhead, comPort: port } = telnetOption;
    const wants = [
      [command.will, binary],
      [command.do, binary],
      [command.will, suppressGoAhead],
      [command.do, suppressGoAhead],
      [command.will, port],
    ] as const;
    return Uint8Array.from(wants.flatMap(([verb, option]) => [iac, verb, option]));
  }

  /** RFC 854: a byte of all ones is sent twice. */
  escape(bytes: Uint8Array): Uint8Array {
    return bytes.includes(iac)
      ? Uint8Array.from([...bytes].flatMap((byte) => (byte === iac ? [iac, iac] : [byte])))
      : bytes;
  }

  read(chunk: Uint8Array): ComPortReading {
    const data: number[] = [];
    const answer: number[] = [];
    const news: ComPortNews[] = [];
    for (const byte of chunk) this.take(byte, data, answer, news);
    return { data: Uint8Array.from(data), answer: Uint8Array.from(answer), news };
  }

  private take(byte: number, data: number[], answer: number[], news: ComPortNews[]): void {
    switch (this.state) {
      case 'data':
        if (byte === iac) this.state = 'iac';
        else data.push(byte);
        return;
      case 'iac':
        this.state = 'data';
        if (byte === iac) data.push(iac);
        else if (byte === command.sb) {
          this.sub = [];
          this.state = 'sub';
        } else if (byte >= command.will && byte <= command.dont) {
          this.verb = byte;
          this.state = 'option';
        }
        // Anything else is a command without content (RFC 854, “TELNET COMMAND STRUCTURE”).
        return;
      case 'option':
        this.state = 'data';
        return this.negotiate(byte, answer, news);
      case 'sub':
        if (byte === iac) this.state = 'sub-iac';
        else if (this.sub.length < maxSubnegotiation) this.sub.push(byte);
        return;
      case 'sub-iac':
        this.state = byte === command.se ? 'data' : 'sub';
        if (byte === iac && this.sub.length < maxSubnegotiation) this.sub.push(iac);
        if (byte === command.se) this.onSub(news);
        return;
    }
  }

  private negotiate(option: number, answer: number[], news: ComPortNews[]): void {
    if (option === telnetOption.comPort) {
      if (this.verb === command.do && !this.isOffered) {
        this.isOffered = true;
        for (const { code, value } of this.asked) answer.push(...subnegotiation(code, value));
      } else if (this.verb === command.dont && !this.isRefused) {
        this.isRefused = true;
        news.push({ is: 'refused' });
      } else if (this.verb === command.will) answer.push(iac, command.dont, option);
      return;
    }
    // These were asked for by us: their answers need none (RFC 854, to prevent loops).
    if (option === telnetOption.binary || option === telnetOption.suppressGoAhead) return;
    if (this.verb === command.will) answer.push(iac, command.dont, option);
    if (this.verb === command.do) answer.push(iac, command.wont, option);
  }

  private onSub(news: ComPortNews[]): void {
    const [option, code = 0, ...value] = this.sub;
    if (option !== telnetOption.comPort) return;
    const asked = this.asked.find((each) => each.code + answerOffset === code);
    if (!asked || !this.waiting.delete(asked.code)) return;
    if (!asked.value.every((byte, n) => byte === value[n]))
      news.push({
        is: 'different',
        what: `${asked.title} ${asked.shown(value)} instead of ${asked.shown(asked.value)}`,
      });
    if (this.waiting.size === 0) news.push({ is: 'ready' });
  }
}

function subnegotiation(code: number, value: readonly number[]): number[] {
  const content = value.flatMap((byte) => (byte === iac ? [iac, iac] : [byte]));
  return [iac, command.sb, telnetOption.comPort, code, ...content, iac, command.se];
}

function settingsOf({ baudRate, format, flow }: LineSettings): Asked[] {
  const [, bits = '8', parity = 'N', stop = '1'] = /^([5-8])([NEOMS])(1|1\.5|2)$/.exec(format) ?? [];
  const named = (table: Readonly<Record<string, number>>) => (value: readonly number[]) =>
    Object.entries(table).find(([, code]) => code === value[0])?.[0] ?? String(value[0]);
  return [
    {
      title: 'speed',
      code: comPort.baudRate,
      value: [24, 16, 8, 0].map((shift) => (baudRate >>> shift) & 0xff),
      shown: (value) => String(value.reduce((all, byte) => all * 256 + byte, 0)),
    },
    { title: 'data bits', code: comPort.dataSize, value: [Number(bits)], shown: ([count]) => String(count) },
    {
      title: 'parity',
      code: comPort.parity,
      value: [parities[parity as keyof typeof parities]],
      shown: named(parities),
    },
    {
      title: 'stop bits',
      code: comPort.stopSize,
      value: [stopSizes[stop as keyof typeof stopSizes]],
      shown: named(stopSizes),
    },
    { title: 'flow control', code: comPort.control, value: [flowControl[flow]], shown: named(flowControl) },
  ];
}
