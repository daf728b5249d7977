import type { DriverDocument } from './schema';

interface SignIn {
  readonly user: string;
  readonly password: string;
}

/** The name and password of a device; where it has neither, those that its kind comes with. */
export const signInOf = (document: Pick<DriverDocument, 'signIn'> | undefined, own: SignIn): SignIn =>
  own.user === '' && own.password === '' && document?.signIn ? document.signIn : own;
