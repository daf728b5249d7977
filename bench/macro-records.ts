import type { MacroRecord } from '../src/core/show';

/** A step that takes an input. */
export const take = (n: number) => ({
  is: 'send' as const,
  send: { device: 'dev-switcher', command: 'take', params: { input: (n % 6) + 1 } },
});

/** A macro of one segment. */
export function macro(id: string, steps: MacroRecord['data']['segments'][number]['steps']): MacroRecord {
  return {
    kind: 'macro',
    id,
    version: 1,
    data: {
      name: id,
      order: 1,
      note: '',
      params: [],
      again: 'ignore',
      whenDown: 'go on',
      segments: [{ id: 's', name: '', steps }],
    },
  };
}
