import fc from 'fast-check';
import { RE2JS } from 're2js';
import { describe, expect, it } from 'vitest';
import { shippedDrivers } from '../../drivers';
import { plainPattern } from './plain-pattern';
import type { DriverDocument } from './schema';

const shipped = (shippedDrivers as readonly DriverDocument[]).flatMap(({ replies }) =>
  (replies ?? []).flatMap(({ match }) => (match === undefined ? [] : [match])),
);
const made = [
  '^A(?P<n>[0-9]+)$',
  '^A(?P<n>[0-9]*)B',
  '^(?P<a>on|off) (?P<t>.*)$',
  '^x(?P<a>[^ ]+) y(?P<b>.)$',
  '^(?P<h>.{4})(?P<i>[0-9A-F]{2})',
  '^\\* (?P<m>[a-z]+) \\(ready\\)$',
  '^(?P<d>\\d+)\\.(?P<e>\\d{2})$',
  '^-(?P<n>-?[0-9]+)$',
  '^A(?P<n>[\\s\\S]*)$',
];

/** What the linear-time engine finds. */
function byEngine(source: string, text: string): readonly string[] | undefined {
  const compiled = RE2JS.compile(source);
  const matcher = compiled.matcher(text);
  if (!matcher.find()) return undefined;
  const groups = plainPattern(source)?.groups ?? [];
  return groups.map((name) => matcher.group(name) ?? '');
}

describe('plain patterns', () => {
  it('are most of those that ship', () => {
    const plain = shipped.filter((source) => plainPattern(source)).length;
    expect(plain / shipped.length).toBeGreaterThan(0.75);
  });

  it.each([
    ['not anchored', 'NOW (?P<n>[0-9]+)'],
    ['an alternative outside a group', '^a|b'],
    ['an optional character', '^ab?c'],
    ['an optional group', '^a(?P<n>[0-9])?'],
    ['a set behind which its own characters may come', '^(?P<a>[0-9]+)5$'],
    ['anything, and something behind it', '^(?P<a>.*)b$'],
    ['words of which one begins another', '^(?P<a>on|only)$'],
    ['a set behind a set', '^(?P<a>[0-9]+)(?P<b>[a-z]+)$'],
    ['a group without a name', '^(a)$'],
    ['lazy', '^(?P<a>[0-9]+?)$'],
  ])('are not those with %s', (_name, source) => {
    expect(plainPattern(source)).toBeUndefined();
  });

  it('find what the linear-time engine finds, to the letter', () => {
    const alphabet = fc.constantFrom(
      ...'NOW program A9B-on off.x y*() (ready)\n90F00é'.split(''),
      'NOW ',
      'on',
      'off ',
      '90500',
      'FF',
    );
    const text = fc.array(alphabet, { maxLength: 24 }).map((parts) => parts.join(''));
    // A text that fits nearly: the pattern itself with its groups filled in.
    const near = (source: string) =>
      text.map((filler) =>
        source
          .replace(/^\^|\$$/g, '')
          .replace(/\(\?P<[^)]*\)/g, filler.slice(0, 3))
          .replace(/\\(.)/g, '$1'),
      );
    fc.assert(
      fc.property(
        fc
          .constantFrom(...made, ...shipped)
          .chain((source) => fc.tuple(fc.constant(source), fc.oneof(text, near(source)))),
        ([source, sample]) => {
          const plain = plainPattern(source);
          if (plain)
            expect({ source, sample, found: plain.match(sample) }).toEqual({
              source,
              sample,
              found: byEngine(source, sample),
            });
        },
      ),
      { numRuns: 3000 },
    );
  });
});
