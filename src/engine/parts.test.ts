import { describe, expect, it } from 'vitest';
import { Parts, type Part } from './parts';

function made() {
  const did: string[] = [];
  const faults: string[] = [];
  const parts = new Parts((message, cause) => faults.push(`${message} ${String(cause)}`));
  const add = (name: string, more: Partial<Part> = {}) =>
    parts.add({ start: () => void did.push(`start ${name}`), stop: () => void did.push(`stop ${name}`), ...more });
  return { parts, add, did, faults };
}

describe('the parts of the engine', () => {
  it('start in their order and stop in the reverse, each once', async () => {
    const { parts, add, did } = made();
    for (const name of ['a', 'b', 'c']) add(name);
    await parts.start();
    await Promise.all([parts.stop(), parts.stop()]);
    await parts.stop();
    expect(did).toEqual(['start a', 'start b', 'start c', 'stop c', 'stop b', 'stop a']);
  });

  it('are all stopped when one cannot start, and the start fails with its reason', async () => {
    const { parts, add, did } = made();
    add('a');
    add('b', { start: () => Promise.reject(new Error('The port is taken.')) });
    add('c');
    await expect(parts.start()).rejects.toThrow('The port is taken.');
    expect(did.slice(-3)).toEqual(['stop c', 'stop b', 'stop a']);
  });

  it('are stopped also when one of them cannot be, which is told', async () => {
    const { parts, add, did, faults } = made();
    add('a');
    add('b', { stop: () => Promise.reject(new Error('no')) });
    await parts.stop();
    expect(did).toEqual(['stop a']);
    expect(faults).toEqual(['Object could not be stopped. Error: no']);
  });

  it('hear of readings, links and the show in their order', () => {
    const { parts, add, did } = made();
    add('a', { onReadings: (device, keys) => void did.push(`a ${device} ${keys.join()}`) });
    add('b', { onShow: ({ kind }) => void did.push(`b ${kind}`) });
    add('c', { onReadings: () => void did.push('c'), onShow: () => void did.push('c too') });
    parts.onReadings('d', ['x', 'y']);
    parts.onShow({ kind: 'show' });
    expect(did).toEqual(['a d x,y', 'c', 'b show', 'c too']);
  });
});
