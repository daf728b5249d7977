import type { Link, LinkWord } from '../../core/session';
import { downCauses } from '../../core/session';

/** The words and shapes of states. Every state is also a word or a shape; what is normal is quiet. */

/** How loudly a link speaks. */
export function linkTone(word: LinkWord): 'quiet' | 'busy' | 'doubt' | 'fault' {
  switch (word) {
    case 'up':
    case 'off':
    case 'one-way':
    case 'not checked':
      return 'quiet';
    case 'calling':
    case 'signing in':
    case 'syncing':
      return 'busy';
    case 'silent':
      return 'doubt';
    case 'down':
    case 'locked out':
    case 'occupied':
      return 'fault';
  }
}

/** `down · port refused` */
export const linkText = (link: Link): string =>
  link.cause ? `${link.word} · ${downCauses[link.cause].title}` : link.word;

/** What to do about a link that is not up, or nothing. */
export function linkAdvice(link: Link): string | undefined {
  const said = link.detail ? ` ${link.detail}` : '';
  if (link.word === 'locked out') {
    return `The device does not accept the name or the password.${said} Correct them, or call again after changing them at the device.`;
  }
  if (link.word === 'occupied') return `Another controller is connected, and the device accepts only one.${said}`;
  if (link.word === 'not checked')
    return 'Connected. The program asks this device nothing, so it cannot tell whether it answers. Set a regular question in its settings.';
  return link.cause && `${downCauses[link.cause].tryNext}${said}`;
}

/** `14:32:07.120`, in the time of the place. */
export function clockText(at: number, withMs = true): string {
  const date = new Date(at);
  const two = (n: number) => String(n).padStart(2, '0');
  const time = `${two(date.getHours())}:${two(date.getMinutes())}:${two(date.getSeconds())}`;
  return withMs ? `${time}.${String(date.getMilliseconds()).padStart(3, '0')}` : time;
}

/** `3 s`, `4 min`, `2 h`: how long ago. */
export function ageText(ms: number): string {
  const seconds = Math.max(0, Math.round(ms / 1000));
  if (seconds < 90) return `${seconds} s`;
  const minutes = Math.round(seconds / 60);
  return minutes < 90 ? `${minutes} min` : `${Math.round(minutes / 60)} h`;
}

/** `0.8 ms`, `24 ms`, `1.2 s` */
export function durationText(ms: number): string {
  if (ms >= 1000) return `${(ms / 1000).toFixed(1)} s`;
  return ms < 10 ? `${ms.toFixed(1)} ms` : `${Math.round(ms)} ms`;
}

/** Bytes in two digits each, as text that can be read: line endings and what cannot be printed as escapes. */
export function bytesText(hex: string): string {
  const bytes = Uint8Array.from(hex.match(/../g) ?? [], (pair) => parseInt(pair, 16));
  const text = new TextDecoder().decode(bytes);
  const isText = !text.includes('\ufffd');
  // Of what is mostly no text, the text says nothing.
  const odd = text.match(/[\ufffd\x00-\x09\x0b\x0c\x0e-\x1f\x7f-\x9f]/g)?.length ?? 0;
  if ((bytes.length >= 8 || !isText) && odd * 3 > text.length) return hex.toUpperCase().replace(/..(?=.)/g, '$& ');
  // In another character set, each byte stands for itself.
  const shown = isText ? text : String.fromCharCode(...bytes);
  return shown.replace(isText ? /[\x00-\x1f\x7f-\x9f]/g : /[\x00-\x1f\x7f-\xff]/g, (c) => {
    if (c === '\r') return '\\r';
    if (c === '\n') return '\\n';
    return `\\x${c.charCodeAt(0).toString(16).padStart(2, '0').toUpperCase()}`;
  });
}
