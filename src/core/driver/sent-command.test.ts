import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shippedDrivers } from '../../drivers';
import { fromEscaped, fromHex, isCut, makeExchange, toHex } from '../wire';
import { compileDriver, type CompiledDriver } from './compile';
import { encodeCommand } from './encode';
import { sentCommand } from './sent-command';
import type { DriverSample } from './schema-samples';

const compiled = (document: unknown, options = {}): CompiledDriver => {
  const driver = compileDriver(document, { options });
  if (!driver.ok) throw new Error(JSON.stringify(driver.error));
  return driver.value;
};
const bytesOf = (written: string | { hex: string }): Uint8Array => {
  const read = typeof written === 'string' ? fromEscaped(written) : fromHex(written.hex);
  if (!read.ok) throw new Error(read.error.message);
  return read.value;
};
const written = (driver: CompiledDriver, id: string, params: Readonly<Record<string, string | number | boolean>>) => {
  const encoded = encodeCommand(driver, id, params, { ref: 7 });
  const { framing, link } = driver.document;
  if (!encoded.ok || !isCut(framing)) return undefined;
  const bytes = makeExchange(framing, link.kind !== 'udp').write(encoded.value.out, 7);
  return bytes.ok ? bytes.value : undefined;
};

type Sent = Extract<DriverSample, { command: string }>;

describe('a command in bytes that were sent', () => {
  const samples = (shippedDrivers as readonly { id: string; samples?: DriverSample[] }[]).flatMap((document) =>
    (document.samples ?? []).flatMap((sample) =>
      'command' in sample && Object.keys(sample.readings ?? {}).length === 0
        ? [{ document, sample: sample as Sent }]
        : [],
    ),
  );

  it('is recognised in every sample of a driver that ships, but for those of HTTP, MQTT, sACN and UMD', () => {
    let recognised = 0;
    for (const { document, sample } of samples) {
      const driver = compiled(document, sample.options);
      const { kind } = driver.document.framing;
      if (kind === 'umd' || !isCut(driver.document.framing)) continue;
      const bytes = bytesOf(sample.sends);
      const found = sentCommand(driver, bytes);
      // Two commands may send the same; what counts is that it comes out again.
      const again = found && written(driver, found.id, found.params);
      const shown = `${document.id} ${sample.command} ${toHex(bytes)}`;
      expect(found, shown).toBeDefined();
      expect(again?.length, shown).toBe(written(driver, sample.command, sample.params ?? {})?.length);
      if (found?.id === sample.command) recognised += 1;
    }
    expect(recognised).toBeGreaterThan(60);
  });

  it('with any values, is the one that was sent', () => {
    const driver = compiled({
      format: 1,
      id: 'tried',
      version: 1,
      title: 'Tried',
      role: 'any',
      link: { kind: 'tcp', port: 1 },
      framing: { kind: 'prefixed', header: 1, width: 1 },
      commands: {
        set: {
          title: 'Set',
          params: {
            channel: { title: 'Channel', value: { type: 'whole', min: 0, max: 255 } },
            level: { title: 'Level', value: { type: 'whole', min: -300, max: 300 } },
          },
          send: { hex: '7E {length u8+1|21 {channel:u8} {level:u16be}} {check sum8}' },
        },
        name: {
          title: 'Name',
          params: { text: { title: 'Text', value: { type: 'text', maxLength: 40 } } },
          send: { hex: '7E {length u8+1|22 {text}} {check sum8}' },
        },
      },
      readings: {},
    });
    const level = fc.record({ channel: fc.integer({ min: 0, max: 255 }), level: fc.integer({ min: -300, max: 300 }) });
    const name = fc.record({ text: fc.string({ unit: 'grapheme', maxLength: 10 }) });
    const sent = fc.oneof(
      level.map((params) => ['set', params] as const),
      name.map((params) => ['name', params] as const),
    );
    fc.assert(
      fc.property(sent, ([id, params]) => {
        const bytes = written(driver, id, params);
        expect(bytes && sentCommand(driver, bytes)).toEqual({ id, params });
      }),
    );
  });

  it('is not made of bytes that no command sends, and nothing throws', () => {
    const drivers = shippedDrivers
      .map((document) => compiled(document))
      .filter(({ document }) => document.role !== 'any');
    fc.assert(
      fc.property(fc.constantFrom(...drivers), fc.uint8Array({ maxLength: 40 }), (driver, bytes) => {
        const found = sentCommand(driver, bytes);
        if (found) expect(written(driver, found.id, found.params)).toBeDefined();
      }),
    );
  });
});
