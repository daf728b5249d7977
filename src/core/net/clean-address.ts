import ipaddr from 'ipaddr.js';
import { isMidiPort, isSerialPort } from './local-port';
import { fail, ok, type Result } from '../result';

/** An address as it was meant, with the port that stood beside it, and what was removed on the way. */
export interface CleanAddress {
  /** An IPv4 or IPv6 address without brackets, a host name in small letters, or a serial port. Empty when nothing was typed. */
  readonly host: string;
  readonly port: number | undefined;
  /** A sentence for each thing that was changed. */
  readonly changes: readonly string[];
}

/**
 * Understands what people paste into an address field: spaces, a protocol, a port, a path, brackets, a name to sign in with.
 * Refuses what is no address with a sentence that says what is wrong and what to type.
 */
export function cleanAddress(typed: string): Result<CleanAddress, string> {
  const serial = typed.trim();
  // Windows writes the names of serial ports in capitals; elsewhere they are case-sensitive.
  if (isSerialPort(serial))
    return ok({ host: /^com/i.test(serial) ? serial.toUpperCase() : serial, port: undefined, changes: [] });
  if (isMidiPort(serial)) return ok({ host: serial, port: undefined, changes: [] });
  const changes: string[] = [];
  let rest = typed.replace(/[\s\u00a0\u200b\ufeff]+/g, '');
  if (rest !== typed) changes.push('spaces were taken out');
  const scheme = /^([a-z][a-z0-9+.-]*):\/\//i.exec(rest);
  if (scheme) {
    rest = rest.slice(scheme[0].length);
    changes.push(`“${scheme[0]}” was removed`);
  }
  const path = rest.search(/[/?#]/);
  if (path >= 0) {
    // `10.0.0.5/24` is an address with its mask, and the mask is none of the device's address either.
    if (rest.length > path + 1) changes.push(`“${rest.slice(path)}” was removed`);
    rest = rest.slice(0, path);
  }
  const at = rest.lastIndexOf('@');
  if (at >= 0) {
    changes.push('the text before “@” was removed; name and password have fields of their own');
    rest = rest.slice(at + 1);
  }
  const [host, portText] = splitPort(rest);
  let port: number | undefined;
  if (portText !== undefined) {
    port = Number(portText);
    if (!/^\d+$/.test(portText) || port < 1 || port > 65_535) {
      return fail(`“${portText}” is not a port: ports are whole numbers from 1 to 65535.`);
    }
    changes.push(`port ${port} was moved to its own field`);
  }
  if (host === '') return typed.trim() === '' ? ok({ host: '', port, changes }) : fail('There is no address in it.');
  return checkedHost(host, port, changes);
}

/** Host and port; the colons of an IPv6 address without brackets belong to the address. */
function splitPort(text: string): readonly [string, string | undefined] {
  const bracketed = /^\[([^\]]*)\](?::(.*))?$/.exec(text);
  if (bracketed) return [bracketed[1] ?? '', bracketed[2]];
  const colon = text.indexOf(':');
  if (colon < 0 || text.indexOf(':', colon + 1) >= 0) return [text, undefined];
  return [text.slice(0, colon), text.slice(colon + 1)];
}

function checkedHost(text: string, port: number | undefined, changes: string[]): Result<CleanAddress, string> {
  if (text.includes(':')) {
    const [bare = '', zone] = text.split('%');
    if (!ipaddr.IPv6.isValid(bare) || (zone !== undefined && !/^[A-Za-z0-9_.-]{1,20}$/.test(zone))) {
      return fail(`“${text}” is not an IPv6 address. One looks like fd00::5.`);
    }
    return ok({ host: text.toLowerCase(), port, changes });
  }
  if (/^[\d.]+$/.test(text)) {
    if (/^\d{1,3}(\.\d{1,3}){3}$/.test(text)) {
      const parts = text.split('.').map(Number);
      const wrong = parts.find((part) => part > 255);
      if (wrong !== undefined) return fail(`“${wrong}” is too large: each part of an address goes from 0 to 255.`);
      const host = parts.join('.');
      // Some programs read 010 as eight; nobody means that.
      if (host !== text) changes.push(`leading zeros were removed: ${host}`);
      return ok({ host, port, changes });
    }
    const count = text.split('.').filter(Boolean).length;
    return fail(`“${text}” has ${count === 1 ? '1 part' : `${count} parts`}; an address has four, such as 10.0.0.5.`);
  }
  const name = text.replace(/\.$/, '').toLowerCase();
  if (name !== text.replace(/\.$/, '')) changes.push('capitals were made small');
  if (name.length > 253 || !name.split('.').every((label) => /^[a-z0-9_]([a-z0-9_-]{0,61}[a-z0-9_])?$/.test(label))) {
    return fail(`“${text}” is neither an IP address nor a host name: letters, digits, hyphens and dots.`);
  }
  return ok({ host: name, port, changes });
}
