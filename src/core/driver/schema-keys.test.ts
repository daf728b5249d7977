import { describe, expect, it } from 'vitest';
import { shippedDrivers } from '../../drivers';
import { schemaAt } from './schema-keys';

type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };

describe('what the schema says of a place in a driver document', () => {
  it('names the keys of the whole, of a command and of its parameters, those that are required first', () => {
    expect(
      schemaAt([])
        .keys.slice(0, 3)
        .every(({ isRequired }) => isRequired),
    ).toBe(true);
    const command = schemaAt(['commands', 'take']).keys.map(({ name }) => name);
    expect(command).toEqual(expect.arrayContaining(['title', 'send', 'says', 'confirm', 'risky']));
    expect(schemaAt(['commands', 'take', 'params', 'input', 'value']).keys.map(({ name }) => name)).toContain('type');
  });

  it('offers the values that a place takes', () => {
    expect(schemaAt(['commands', 'take', 'class']).values).toEqual([
      '"stop"',
      '"urgent"',
      '"ordinary"',
      '"continuous"',
    ]);
    expect(schemaAt(['commands', 'take', 'risky']).values).toEqual(['true', 'false']);
    expect(schemaAt(['framing', 'kind']).values).toEqual(expect.arrayContaining(['"lines"', '"json-lines"', '"osc"']));
  });

  it('knows every key of every driver that ships, and nothing where there is nothing', () => {
    let seen = 0;
    const walk = (value: Json, path: readonly (string | number)[]): void => {
      if (Array.isArray(value)) return value.forEach((each: Json, n) => walk(each, [...path, n]));
      if (typeof value !== 'object' || value === null) return;
      const { keys, what } = schemaAt(path);
      for (const [key, child] of Object.entries(value)) {
        const isKnown =
          keys.some(({ name }) => name === key) || what.includes('named entries') || what.includes('any value');
        expect([...path, key, isKnown]).toEqual([...path, key, true]);
        seen += 1;
        walk(child as Json, [...path, key]);
      }
    };
    for (const driver of shippedDrivers) walk(driver as Json, []);
    expect(seen).toBeGreaterThan(2000);
    expect(schemaAt(['commands', 'take', 'nothing', 'of', 'this'])).toMatchObject({ keys: [], values: [] });
  });
});
