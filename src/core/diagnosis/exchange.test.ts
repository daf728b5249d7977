import { expect, it } from 'vitest';
import { ExchangeRecorder, exchangeSchema } from './exchange';

const bytes = (length: number, of = 0x41) => new Uint8Array(length).fill(of);

it('keeps the first lines of a conversation, and of each the first bytes', () => {
  const recorder = new ExchangeRecorder();
  recorder.take('out', bytes(0), 90);
  recorder.take('out', bytes(2), 100, 'state');
  recorder.take('in', bytes(203, 0x0d), 103.5, 'state');
  for (let n = 0; n < 20; n += 1) recorder.take('in', bytes(1), 104 + n);
  const { lines } = recorder;
  expect(exchangeSchema.parse(lines)).toEqual(lines);
  expect(lines).toHaveLength(8);
  expect(lines[0]).toEqual({ dir: 'out', hex: '4141', ms: 0, name: 'state' });
  expect(lines[1]).toEqual({ dir: 'in', hex: '0D'.repeat(200), more: 3, ms: 3.5, name: 'state' });
});
