import { expect, it } from 'vitest';
import { signInOf } from './sign-in';

const usual = { user: 'operator', password: 'tide' };

it.each([
  ['that of the device', { user: 'desk', password: 'rope' }, { user: 'desk', password: 'rope' }],
  ['a password without a name', { user: '', password: 'rope' }, { user: '', password: 'rope' }],
  ['a name without a password', { user: 'desk', password: '' }, { user: 'desk', password: '' }],
  ['what its kind comes with where it has neither', { user: '', password: '' }, usual],
])('a device signs in with %s', (_, own, used) => {
  expect(signInOf({ signIn: usual }, own)).toEqual(used);
});

it('a device of a kind without a usual sign-in has none', () => {
  expect(signInOf({}, { user: '', password: '' })).toEqual({ user: '', password: '' });
});
