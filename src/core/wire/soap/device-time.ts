import { atPointer, jsonText, type Json } from '../json';

const response = '/Envelope/Body/GetSystemDateAndTimeResponse/SystemDateAndTime/UTCDateTime';
const parts = ['Date/Year', 'Date/Month', 'Date/Day', 'Time/Hour', 'Time/Minute', 'Time/Second'];

/**
 * The time that a device gives in a GetSystemDateAndTimeResponse (ONVIF Core Specification, “GetSystemDateAndTime”), to the second, as ISO 8601 has
 * it: `2026-06-14T10:00:00Z`. `undefined` for any other message, and for one without its time in UTC.
 *
 * @param xml as `readXml` gives it
 */
export function deviceTimeIn(xml: Json): string | undefined {
  const texts = parts.map((part) => jsonText(atPointer(xml, `${response}/${part}`))?.trim() ?? '');
  if (!texts.every((text) => /^\d{1,4}$/.test(text))) return undefined;
  const [year = '', ...rest] = texts;
  const [month, day, hour, minute, second] = rest.map((text) => text.padStart(2, '0'));
  return `${year.padStart(4, '0')}-${month}-${day}T${hour}:${minute}:${second}Z`;
}
