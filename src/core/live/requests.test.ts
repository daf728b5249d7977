import fc from 'fast-check';
import { expect, it } from 'vitest';
import { clientMessageSchema, readPress } from './requests';

it('reads a press by the short way exactly when the schema would', () => {
  const id = fc.oneof(
    fc.constantFrom('press-1', 'ctl_A-9', 'short', '', 'x'.repeat(41), 'with space'),
    fc.string(),
    fc.integer(),
  );
  const message = fc.record(
    {
      t: fc.constantFrom('press', 'ask', 'pres'),
      id,
      page: id,
      control: id,
      gesture: fc.constantFrom('tap', 'hold', undefined),
      more: fc.boolean(),
    },
    { requiredKeys: ['t', 'id', 'page', 'control', 'gesture'] },
  );
  fc.assert(
    fc.property(fc.oneof({ weight: 8, arbitrary: message }, fc.anything()), (value) => {
      const short = readPress(value);
      const parsed = clientMessageSchema.safeParse(value);
      expect(short).toEqual(parsed.success && parsed.data.t === 'press' ? parsed.data : undefined);
    }),
    { numRuns: 2000 },
  );
});
