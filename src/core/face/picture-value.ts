/**
 * True for the value of a reading that a screen can show as a picture: a `data:` URL of an image (RFC 2397), or the address of a picture of the
 * show. No other address is shown, whatever a device reports.
 */
export const isPictureValue = (value: unknown): value is string =>
  typeof value === 'string' && /^(data:image\/|\/pictures\/[0-9a-f]{64}$)/.test(value);
