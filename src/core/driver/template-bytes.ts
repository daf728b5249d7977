/** Numbers as bytes, as the formats of a template's holes name them. */

export const byteFormats = ['u8', 'u16be', 'u16le', 'u32be', 'u32le', 'f32be', 'nib', 'bcd'] as const;
export type ByteFormat = (typeof byteFormats)[number];

/** Appends a number. Negative whole numbers go out as two's complement; what does not fit loses its highest bits. */
export function putFormatted(out: number[], format: ByteFormat, digits: number, value: number): void {
  const whole = Math.round(Number.isFinite(value) ? value : 0);
  switch (format) {
    case 'u8':
      out.push(whole & 0xff);
      return;
    case 'u16be':
      out.push((whole >> 8) & 0xff, whole & 0xff);
      return;
    case 'u16le':
      out.push(whole & 0xff, (whole >> 8) & 0xff);
      return;
    case 'u32be':
      out.push((whole >>> 24) & 0xff, (whole >>> 16) & 0xff, (whole >>> 8) & 0xff, whole & 0xff);
      return;
    case 'u32le':
      out.push(whole & 0xff, (whole >>> 8) & 0xff, (whole >>> 16) & 0xff, (whole >>> 24) & 0xff);
      return;
    case 'f32be': {
      const view = new DataView(new ArrayBuffer(4));
      view.setFloat32(0, value);
      for (let n = 0; n < 4; n += 1) out.push(view.getUint8(n));
      return;
    }
    case 'nib':
      for (let n = digits - 1; n >= 0; n -= 1) out.push((whole >> (n * 4)) & 0x0f);
      return;
    case 'bcd': {
      const text = String(Math.abs(whole))
        .padStart(digits * 2, '0')
        .slice(-digits * 2);
      for (let n = 0; n < digits; n += 1) out.push(parseInt(text.slice(n * 2, n * 2 + 2), 16));
      return;
    }
  }
}
