import { describe, expect, it } from 'vitest';
import { viscaOverIp as ptzCamera, viscaOverTcp as bareCamera } from '../../drivers/visca';
import genericMqtt from '../../drivers/generic-mqtt.json';
import audioMixer from '../../drivers/audio-mixer.json';
import encoder from '../../drivers/streaming-encoder.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { acknowledgementBytes, publishedBytes, toHex } from '../wire';
import { compileDriver } from './compile';
import { frameMeaning } from './meaning';

const drivers = { audioMixer, ptzCamera, bareCamera, encoder, genericMqtt, visionSwitcher };
const meaning = (driver: keyof typeof drivers, bytes: string | Uint8Array, name?: string) => {
  const compiled = compileDriver(drivers[driver]);
  if (!compiled.ok) throw new Error('The driver does not compile.');
  return frameMeaning(compiled.value, Buffer.from(bytes).toString('hex'), name);
};
const hex = (digits: string) => Uint8Array.from(Buffer.from(digits.replaceAll(' ', ''), 'hex'));

describe('what a frame means', () => {
  it('names the readings that it reports', () => {
    expect(meaning('visionSwitcher', 'NOW program 3\r\n')).toBe('Program input 3');
  });

  it('says that it accepts or refuses a command, with the reason', () => {
    expect(meaning('visionSwitcher', 'DONE\r\n')).toBe('Accepted');
    // VISCA: acknowledge (90 4y FF), completion (90 5y FF) and error (90 6y xx FF), with and without the header of VISCA over IP.
    expect(meaning('bareCamera', hex('90 41 ff'))).toBe('Accepted');
    expect(meaning('bareCamera', hex('90 51 ff'))).toBe('Done');
    expect(meaning('ptzCamera', hex('01 11 00 04 00 00 00 09 90 61 41 ff'))).toMatch(/^Refused: /);
  });

  it('reads an answer that is only understood with its question', () => {
    const answer = hex('90 50 02 ff');
    expect(meaning('bareCamera', answer)).toBeUndefined();
    const questions = Object.keys(bareCamera.questions);
    const read = questions.map((name) => meaning('bareCamera', answer, name)).filter((text) => text !== undefined);
    expect(read.length).toBeGreaterThan(0);
  });

  it('reads the body of an HTTP answer', () => {
    const body = JSON.stringify({ stream: { state: 'idle', kbps: 0 }, record: { on: false } });
    expect(meaning('encoder', body, 'status')).toMatch(/^Stream\w* .*idle/i);
    // As it stands on the wire, behind its head.
    const whole = `HTTP/1.1 200\r\nserver: quay\r\n\r\n${body}`;
    expect(meaning('encoder', whole, 'status')).toBe(meaning('encoder', body, 'status'));
  });

  it('reads OSC as it comes over a stream, between its ends', () => {
    // RFC 1055: END around the frame. OSC 1.0: address and type tags filled up to four bytes, a float of four bytes: -12.
    const level = hex('c0 2f 73 74 72 69 70 2f 30 33 2f 6c 65 76 65 6c 00 2c 66 00 00 c1 40 00 00 c0');
    expect(meaning('audioMixer', level)).toMatch(/-12/);
  });

  it('reads what was published over MQTT, and the acknowledgements of the broker', () => {
    const of = (bytes: Uint8Array) => meaning('genericMqtt', bytes);
    const utf8 = new TextEncoder();
    expect(of(publishedBytes('stage/lamp', utf8.encode('on\nand bright')))).toBe(
      'Topic heard last stage/lamp · Heard last on\nand bright',
    );
    // PUBACK (MQTT 5.0, 3.4): type 4, length 2, packet 258; with the reason code 0x10 or 0x87 behind it. PUBCOMP (3.7): type 7.
    expect(of(acknowledgementBytes(1, 258, 0))).toBe('Accepted by the broker');
    expect(toHex(acknowledgementBytes(1, 258, 0))).toBe('40020102');
    expect(toHex(acknowledgementBytes(2, 258, 0x10))).toBe('7003010210');
    expect(of(acknowledgementBytes(1, 258, 0x10))).toMatch(/no device subscribes/);
    // A topic may begin like one of them.
    expect(of(publishedBytes('@home', utf8.encode('1')))).toContain('@home');
    expect(of(utf8.encode('no line feed'))).toBeUndefined();
  });

  it('says nothing of what it cannot read, and never throws', () => {
    expect(meaning('visionSwitcher', 'NOW what\r\n')).toBeUndefined();
    expect(meaning('visionSwitcher', 'NOW program 3')).toBeUndefined();
    expect(meaning('ptzCamera', hex('ff'))).toBeUndefined();
    expect(frameMeaning({} as never, 'not hex', undefined)).toBeUndefined();
  });
});
