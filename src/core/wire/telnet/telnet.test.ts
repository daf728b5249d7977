import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromHex, toHex } from '../hex';
import { ComPort } from './com-port';

const hex = (text: string): Uint8Array => {
  const bytes = fromHex(text);
  if (!bytes.ok) throw new Error(bytes.error.message);
  return bytes.value;
};
const port = () => new ComPort({ baudRate: 9600, format: '8N1', flow: 'none' });

describe('RFC 2217', () => {
  it('asks for eight bits both ways and for the port', () => {
    // RFC 856: WILL and DO TRANSMIT-BINARY; RFC 858: SUPPRESS-GO-AHEAD; RFC 2217, 1: WILL COM-PORT-OPTION.
    expect(toHex(port().hello())).toBe('FFFB00FFFD00FFFB03FFFD03FFFB2C');
  });

  it('sets speed, data bits, parity, stop bits and flow control once the port is offered, and is ready when each is answered', () => {
    const com = port();
    const offered = com.read(hex('FF FD 2C'));
    // RFC 2217, 2: SET-BAUDRATE 9600, SET-DATASIZE 8, SET-PARITY NONE, SET-STOPSIZE 1, SET-CONTROL no flow control.
    expect(toHex(offered.answer)).toBe('FFFA2C0100002580FFF0FFFA2C0208FFF0FFFA2C0301FFF0FFFA2C0401FFF0FFFA2C0501FFF0');
    const answers = 'FFFA2C6500002580FFF0FFFA2C6608FFF0FFFA2C6701FFF0FFFA2C6801FFF0';
    expect(com.read(hex(answers)).news).toEqual([]);
    expect(com.read(hex('FFFA2C6901FFF0')).news).toEqual([{ is: 'ready' }]);
    expect(com.read(hex('FF FD 2C')).answer.length).toBe(0);
  });

  it('tells another setting than the one that was asked for', () => {
    const com = port();
    com.read(hex('FF FD 2C'));
    expect(com.read(hex('FFFA2C65000004B0FFF0')).news).toEqual([
      { is: 'different', what: 'speed 1200 instead of 9600' },
    ]);
  });

  it('a speed with a byte FF in it is escaped, and read again', () => {
    const com = new ComPort({ baudRate: 0xff00, format: '8N1', flow: 'none' });
    expect(toHex(com.read(hex('FF FD 2C')).answer)).toContain('FFFA2C010000FFFF00FFF0');
    expect(com.read(hex('FFFA2C650000FFFF00FFF0')).news).toEqual([]);
  });

  it('refuses other options, once, and says where there is no port', () => {
    const com = port();
    expect(toHex(com.read(hex('FFFB01 FFFD18 FFFB00 FFFE2C FFFE2C')).answer)).toBe('FFFE01FFFC18');
    expect(port().read(hex('FFFE2C FFFE2C')).news).toEqual([{ is: 'refused' }]);
  });

  it('passes the bytes of the device on, whatever they are and wherever they are cut', () => {
    const chunks = fc.array(fc.uint8Array({ maxLength: 30 }), { maxLength: 8 });
    fc.assert(
      fc.property(chunks, fc.integer({ min: 1, max: 7 }), (said, step) => {
        const com = port();
        const whole = said.flatMap((bytes) => [...com.escape(bytes), ...hex('FFF1 FFFB03')]);
        const data: number[] = [];
        for (let at = 0; at < whole.length; at += step)
          data.push(...com.read(Uint8Array.from(whole.slice(at, at + step))).data);
        expect(data).toEqual(said.flatMap((bytes) => [...bytes]));
      }),
    );
  });

  it('bytes of any kind never throw, and nothing grows', () => {
    const com = port();
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
        const { data, answer } = com.read(bytes);
        expect(data.length).toBeLessThanOrEqual(bytes.length);
        expect(answer.length).toBeLessThanOrEqual(bytes.length + 60);
      }),
    );
  });
});
