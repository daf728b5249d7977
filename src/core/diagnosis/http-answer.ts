import { serviceOf } from './looks-like';
import { failed, passed, type Verdict } from './verdict';

/** What a web server's answer to a plain request says of a device that the program itself asks nothing. */
export function judgeHttpAnswer(heard: Uint8Array, hasPassword: boolean): Verdict {
  const text = String.fromCharCode(...heard.subarray(0, 200));
  const status = /^HTTP\/\d(?:\.\d)? (\d{3})/.exec(text)?.[1];
  if (status === undefined) {
    if (heard.length === 0) return failed('mute', 'It took a plain request, and nothing came back.');
    const service = serviceOf(heard);
    return failed('other-protocol', service ? `It looks like ${service}.` : 'It did not answer as a web server does.');
  }
  // RFC 9110, 15.5.2: the request lacks what proves who asks.
  if (status === '401' && !hasPassword) return failed('no-password', 'It answered with HTTP 401: it wants a sign-in.');
  return passed(
    `A web server answers, with HTTP ${status}. Whether it takes the device’s requests, only sending one tells.`,
  );
}
