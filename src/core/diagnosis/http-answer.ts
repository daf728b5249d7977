import { serviceOf } from './looks-like';
import { failed, passed, type Verdict } from './verdict';

/** Judges an HTTP device for which the driver has no question, by its answer to a plain GET request. */
export function judgeHttpAnswer(heard: Uint8Array, hasPassword: boolean): Verdict {
  const text = String.fromCharCode(...heard.subarray(0, 200));
  const status = /^HTTP\/\d(?:\.\d)? (\d{3})/.exec(text)?.[1];
  if (status === undefined) {
    if (heard.length === 0) return failed('mute', 'It accepted a plain request but sent no answer.');
    const service = serviceOf(heard);
    return failed('other-protocol', service ? `It looks like ${service}.` : 'It did not answer as a web server does.');
  }
  // RFC 9110, 15.5.2: the request lacks valid credentials.
  if (status === '401' && !hasPassword)
    return failed('no-password', 'It answered with HTTP 401: it requires a sign-in.');
  return passed(
    `A web server answers with HTTP ${status}. Only a command can show whether it accepts the device’s requests.`,
  );
}
