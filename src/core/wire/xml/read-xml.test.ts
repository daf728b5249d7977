import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { escapeXml, readXml } from '.';

const value = (text: string, lists: readonly string[] = []) => {
  const read = readXml(text, lists);
  if (!read.ok) throw new Error(read.error);
  return read.value;
};

describe('XML as JSON', () => {
  it.each([
    ['an element with text', '<a> hi </a>', { a: 'hi' }],
    ['an empty element', '<a/>', { a: '' }],
    ['a declaration and comments', '<?xml version="1.0"?><!-- x --><a><!-- y -->1</a>', { a: '1' }],
    ['prefixes', '<s:a xmlns:s="u"><t:b xmlns:t="v">1</t:b></s:a>', { a: { b: '1' } }],
    ['attributes', '<a token="7" n:deep="x">hi</a>', { a: { '@token': '7', '@deep': 'x', '#text': 'hi' } }],
    ['attributes of XML itself', '<a xml:lang="en" xmlns="u" xsi:type="t">hi</a>', { a: 'hi' }],
    ['children of one name', '<a><b>1</b><c/><b>2</b></a>', { a: { b: ['1', '2'], c: '' } }],
    ['references', '<a>&lt;&amp;&#228;&#x1F6A3;&quot;&apos;&gt;</a>', { a: '<&ä🚣"\'>' }],
    ['references in attributes', '<a b="1 &lt; 2"/>', { a: { '@b': '1 < 2' } }],
    ['a reference that nobody defined', '<a>&own;</a>', { a: '&own;' }],
    ['a section of characters', '<a><![CDATA[1 < 2]]></a>', { a: '1 < 2' }],
    [
      'numbers, as they are written',
      '<a><b>007</b><c>1e3</c><d>true</d></a>',
      { a: { b: '007', c: '1e3', d: 'true' } },
    ],
  ])('reads %s', (_what, text, wanted) => expect(value(text)).toEqual(wanted));

  it('reads an element as a list where that is wanted, also when there is one', () => {
    expect(value('<a><b>1</b><c>2</c></a>', ['b'])).toEqual({ a: { b: ['1'], c: '2' } });
    expect(value('<a><c>2</c></a>', ['b'])).toEqual({ a: { c: '2' } });
  });

  it.each([
    ['nothing', ''],
    ['a text', 'hello'],
    ['an element that does not end', '<a><b></b>'],
    ['an element that another one ends', '<a><b></a></b>'],
    ['two roots', '<a/><b/>'],
    ['a page of the web', '<html><br><p>It works</html>'],
    ['an attribute without quotes', '<a b=1/>'],
    ['entities of its own', '<!DOCTYPE a [<!ENTITY x "y">]><a>&x;</a>'],
    ['too many levels', `${'<a>'.repeat(80)}${'</a>'.repeat(80)}`],
    ['a name that is none', '<1a>1</1a>'],
    ['a character that is none', '<a>&#0;</a>'],
  ])('refuses %s with a sentence', (_what, text) => {
    const read = readXml(text);
    expect(read.ok).toBe(false);
    expect(!read.ok && read.error).toMatch(/^.{3,120}$/);
  });

  it('gives back what was escaped', () =>
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        const allowed = escapeXml(text).length > 0 ? text.replace(/[\0-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]/g, '') : '';
        expect(value(`<a b="${escapeXml(text)}">|${escapeXml(text)}|</a>`)).toEqual({
          a: { '@b': allowed, '#text': `|${allowed}|` },
        });
      }),
    ));

  it('never throws, whatever comes', () => {
    const whole = fc.constantFrom('<a>x</a>', '<b/>', 'x', '&amp;', '<!-- -->', '<c d="1"/>');
    const torn = fc.constantFrom(
      '<',
      '>',
      '</',
      '/>',
      '"',
      "'",
      '=',
      '&',
      '<!--',
      '-->',
      '<![CDATA[',
      ']]>',
      '<?',
      '\0',
      '<a>',
    );
    const piece = fc.oneof({ weight: 9, arbitrary: whole }, { weight: 1, arbitrary: torn });
    const seen = { read: 0, refused: 0 };
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (parts) => {
        seen[readXml(`<r>${parts.join('')}</r>`).ok ? 'read' : 'refused'] += 1;
      }),
      { numRuns: 2000 },
    );
    expect(Math.min(seen.read, seen.refused)).toBeGreaterThan(200);
  });
});
