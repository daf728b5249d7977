import { describe, expect, it } from 'vitest';
import { compiled, deviceRecord } from '../../../test/support/records';
import { kindsOf } from './kinds';

const channels = (listFrom?: string) =>
  compiled({
    format: 1,
    id: 'a-mixer',
    version: 1,
    title: 'A mixer',
    role: 'audio',
    link: { kind: 'tcp', port: 4000 },
    framing: { kind: 'lines', ending: 'lf' },
    commands: {
      level: {
        title: 'Set a level',
        class: 'continuous',
        params: {
          channel: { title: 'Channel', value: { type: 'whole', min: 1, max: 3 }, ...(listFrom ? { listFrom } : {}) },
          level: { title: 'Level', value: { type: 'decimal', min: -60, max: 10 } },
        },
        send: 'LEVEL {channel} {level}',
        confirm: {
          by: 'readings',
          all: [{ reading: 'channel[].level', index: 'channel', equals: { param: 'level' } }],
          withinMs: 500,
        },
      },
    },
    readings: {
      'channel[].level': {
        title: 'Level',
        value: { type: 'decimal' },
        index: { title: 'Channel', from: 1, to: 3 },
      },
      'channel[].name': { title: 'Name', value: { type: 'text' }, index: { title: 'Channel', from: 1, to: 3 } },
    },
  }).document;

const device = deviceRecord('MX1');
const faders = (listFrom?: string, readings = {}) =>
  kindsOf(device, channels(listFrom), readings).filter(({ purpose }) => purpose === 'Faders');

describe('faders on a family', () => {
  it('are one for each member where its number is typed, each knowing where it is', () => {
    const offers = faders();
    expect(offers.map(({ title }) => title)).toEqual(['Channel 1', 'Channel 2', 'Channel 3']);
    expect(offers[1]?.start).toMatchObject({
      label: [{ text: 'Channel 2' }],
      values: { channel: 2 },
      range: {
        send: { command: 'level', params: { channel: { value: 'channel' } } },
        param: 'level',
        reading: { device: device.id, key: 'channel[$channel].level' },
        min: -60,
        max: 10,
      },
    });
  });

  it('are one for each member that the device names', () => {
    const readings = { 'channel[1].name': { value: 'Host' }, 'channel[3].name': { value: 'Guest' } };
    expect(faders('channel[].name', readings).map(({ title }) => title)).toEqual(['Host', 'Guest']);
  });
});
