import { expect, it } from 'vitest';
import { fromHex } from '../hex';
import { atPointer } from '../json';
import { readXml } from '../xml';
import { deviceTimeIn, securityToken, soapContentType, soapEnvelope } from '.';

/** The example of the ONVIF Application Programmer’s Guide 1.0, section 6.1.1.1 (nonce LKqI6G/AikKCQrN0zqZFlg==). */
const nonce = fromHex('2CAA88E86FC08A428242B374CEA64596');
const token = securityToken(
  { user: 'user', password: 'userpassword' },
  nonce.ok ? nonce.value : new Uint8Array(),
  '2010-09-16T07:50:45Z',
);

it('makes the digest of a security token', () =>
  expect(token).toEqual({
    user: 'user',
    nonce: 'LKqI6G/AikKCQrN0zqZFlg==',
    created: '2010-09-16T07:50:45Z',
    digest: 'tuOSpGlFlIXsozq4HFNeeGeFLEI=',
  }));

it('puts a body into an envelope with the token in its header, and declares the prefixes that the body uses', () => {
  const text = soapEnvelope('<p:Stop><q:All/></p:Stop>', { p: 'urn:p', q: 'urn:q?a&b', r: 'urn:r' }, token);
  const xml = readXml(text);
  expect(xml.ok && atPointer(xml.value, '/Envelope/Body')).toEqual({ Stop: { All: '' } });
  expect(xml.ok && atPointer(xml.value, '/Envelope/Header/Security/UsernameToken')).toMatchObject({
    Username: 'user',
    Password: { '#text': 'tuOSpGlFlIXsozq4HFNeeGeFLEI=' },
    Created: '2010-09-16T07:50:45Z',
  });
  expect(text).toContain('xmlns:p="urn:p" xmlns:q="urn:q?a&amp;b"');
  expect(text).not.toContain('urn:r');
  expect(soapEnvelope('<p:Stop/>', { p: 'urn:p' }, undefined)).not.toContain('Header');
});

it('names the action in the media type', () => {
  expect(soapContentType('')).toBe('application/soap+xml; charset=utf-8');
  expect(soapContentType('urn:p/Stop')).toBe('application/soap+xml; charset=utf-8; action="urn:p/Stop"');
});

const time = (inner: string) => {
  const xml = readXml(
    `<e:Envelope xmlns:e="e"><e:Body><d:GetSystemDateAndTimeResponse xmlns:d="d"><d:SystemDateAndTime>${inner}</d:SystemDateAndTime></d:GetSystemDateAndTimeResponse></e:Body></e:Envelope>`,
  );
  return xml.ok ? deviceTimeIn(xml.value) : undefined;
};

it('reads the time of a device', () => {
  const clock = '<t:Time xmlns:t="t"><t:Hour>7</t:Hour><t:Minute>5</t:Minute><t:Second>9</t:Second></t:Time>';
  const date = '<t:Date xmlns:t="t"><t:Year>2026</t:Year><t:Month>6</t:Month><t:Day>14</t:Day></t:Date>';
  expect(time(`<t:UTCDateTime xmlns:t="t">${clock}${date}</t:UTCDateTime>`)).toBe('2026-06-14T07:05:09Z');
  expect(time(`<t:LocalDateTime xmlns:t="t">${clock}${date}</t:LocalDateTime>`)).toBeUndefined();
  expect(time(`<t:UTCDateTime xmlns:t="t">${clock}</t:UTCDateTime>`)).toBeUndefined();
  expect(time(`<t:UTCDateTime xmlns:t="t">${clock.replace('>9<', '>now<')}${date}</t:UTCDateTime>`)).toBeUndefined();
});
