import { expect, it } from 'vitest';
import { ageText, bytesText, durationText, linkAdvice, linkText, linkTone } from './words';

it.each([
  ['54414b4520330d0a', 'TAKE 3\\r\\n'],
  ['c3a9', 'é'],
  ['0007ff', '00 07 FF'],
  ['9041ff', '90 41 FF'],
  ['466ae97264', 'Fj\\xE9rd'],
  ['c285', '\\x85'],
  ['', ''],
])('shows the bytes %s so that they can be read', (hex, text) => {
  expect(bytesText(hex)).toBe(text);
});

it('says how long something took or is ago in few characters', () => {
  expect([0.84, 24.2, 999, 1240].map(durationText)).toEqual(['0.8 ms', '24 ms', '999 ms', '1.2 s']);
  expect([-5, 3000, 89_000, 120_000, 3 * 3_600_000].map(ageText)).toEqual(['0 s', '3 s', '89 s', '2 min', '3 h']);
});

it('names the cause of a link that is down, and what to try', () => {
  expect(linkText({ word: 'down', cause: 'refused' })).toBe('down · port refused');
  expect(linkAdvice({ word: 'down', cause: 'refused' })).toContain('Is the service switched on?');
  expect(linkAdvice({ word: 'up' })).toBeUndefined();
  expect((['up', 'calling', 'silent', 'down'] as const).map(linkTone)).toEqual(['quiet', 'busy', 'doubt', 'fault']);
});

it('shows as digits what is mostly no text', () => {
  expect(bytesText('010000060000000781010407')).toBe('01 00 00 06 00 00 00 07 81 01 04 07');
  expect(bytesText('4e4f572070726f6772616d2033')).toBe('NOW program 3');
});
