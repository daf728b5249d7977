import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { controlRecord } from '../../../test/support/records';
import { settled, targetOf } from '../press';
import type { DriverParameter } from '../driver';
import type { Scalar } from '../result';
import { devicesOf, withDevices, type LiveArgument, type SendSpec } from '../show';
import { fitted, liveText, lookUpNow } from '.';

const a = { device: 'dev-A', key: 'level' };
const b = { device: 'dev-B', key: 'input[$n].name' };
const now: Readonly<Record<string, Scalar>> = { 'dev-A level': 4, 'dev-B input[3].name': 'Finish' };
const sources = {
  fresh: ({ device, key }: { readonly device: string; readonly key: string }) => now[`${device} ${key}`],
  documentOf: () => undefined,
};
const lookUp = lookUpNow({ n: 3 }, sources);

describe('what is looked up', () => {
  it.each<[LiveArgument, Scalar | undefined]>([
    [{ reading: a }, 4],
    [{ reading: b }, 'Finish'],
    [{ reading: { ...a, key: 'gone' } }, undefined],
    [{ cel: 'r0 * 2 + n', readings: [a] }, 11],
    [{ cel: 'r0 / 3', readings: [a] }, 1],
    [{ cel: 'double(r0) / 3.0', readings: [a] }, 4 / 3],
    [{ cel: 'r0 > 3 ? r1 : "none"', readings: [a, b] }, 'Finish'],
    [{ cel: 'r0 == 4', readings: [a] }, true],
    [{ cel: 'r0 / 0', readings: [a] }, undefined],
    [{ cel: '1.0 / 0.0', readings: [] }, undefined],
    [{ cel: '[r0]', readings: [a] }, undefined],
    [{ cel: 'r0 +', readings: [a] }, undefined],
    [{ cel: 'r0', readings: [{ ...a, key: 'gone' }] }, undefined],
  ])('%j is %j', (argument, value) => {
    expect(lookUp(argument)).toBe(value);
  });

  it('never throws, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string(), (cel) => {
        lookUp({ cel, readings: [a] });
      }),
    );
  });

  it('is written as a person would type it', () => {
    const tags = (id: string) => id.slice(4);
    expect(liveText({ reading: a }, tags)).toBe('A.level');
    expect(liveText({ cel: 'r1 + string(r0)', readings: [a, b] }, tags)).toBe('B.input[n].name + string(A.level)');
  });
});

describe('a value for a parameter', () => {
  const takes = (value: object): Pick<DriverParameter, 'value'> => ({ value: value as DriverParameter['value'] });
  it.each<[object, Scalar, Scalar]>([
    [{ type: 'whole' }, 2.6, 3],
    [{ type: 'whole' }, '7', 7],
    [{ type: 'whole' }, 'seven', 'seven'],
    [{ type: 'whole' }, ' ', ' '],
    [{ type: 'decimal' }, 2.6, 2.6],
    [{ type: 'text' }, 3, '3'],
    [{ type: 'text' }, true, 'true'],
    [{ type: 'onOff' }, true, true],
  ])('%j of %j is %j', (shape, value, fit) => {
    expect(fitted(value, takes(shape))).toBe(fit);
  });
});

describe('a control whose commands look something up', () => {
  const send = (params: SendSpec['params']): SendSpec => ({ device: 'dev-X', command: 'key', params });
  const control = controlRecord('ctl', {
    responses: {
      tap: [send({ key: { reading: a }, on: true })],
      off: { afterMs: 500, again: 'end', sends: [send({ key: { cel: 'r0', readings: [a] }, on: false })] },
    },
  });

  it('is settled whole, and stays about the same', () => {
    const made = settled(control, lookUp, () => undefined);
    expect(made.data.responses.tap[0]?.params).toEqual({ key: 4, on: true });
    expect(made.data.responses.off?.sends[0]?.params).toEqual({ key: 4, on: false });
    const offOf = ({ data }: typeof control) => targetOf(data, data.responses.off?.sends ?? []);
    expect(offOf(made)).toBe(offOf(control));
    // Settled again, after its answers have come.
    expect(offOf(settled(made, lookUp, () => undefined))).toBe(offOf(control));
  });

  it('keeps what nobody knows, and is itself where there is nothing to look up', () => {
    const unknown = settled(
      control,
      () => undefined,
      () => undefined,
    );
    expect(unknown.data.responses.tap).toEqual(control.data.responses.tap);
    const plain = controlRecord('plain', { responses: { tap: [send({ key: 1 })] } });
    expect(settled(plain, lookUp, () => undefined)).toBe(plain);
  });

  it('names the devices that it asks, and goes with them to others', () => {
    expect(devicesOf(control.data).sort()).toEqual(['dev-A', 'dev-X']);
    const moved = withDevices(control.data, (id) => `${id}2`);
    expect(moved.responses.tap[0]?.params.key).toEqual({ reading: { ...a, device: 'dev-A2' } });
    expect(moved.responses.off?.sends[0]?.params.key).toEqual({ cel: 'r0', readings: [{ ...a, device: 'dev-A2' }] });
  });
});
