'use client';

import QRCode from 'qrcode';

/** An address as a QR code (ISO/IEC 18004), to be read with a phone. */
export function QrCode({ text }: { readonly text: string }) {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
  const { size } = modules;
  let path = '';
  for (let y = 0; y < size; y += 1)
    for (let x = 0; x < size; x += 1) if (modules.get(y, x)) path += `M${x + 4} ${y + 4}h1v1h-1z`;
  return (
    <svg
      className="w-37.5"
      viewBox={`0 0 ${size + 8} ${size + 8}`}
      role="img"
      aria-label={`QR code of ${text}`}
      data-veil
    >
      <rect width="100%" height="100%" fill="#fff" />
      <path d={path} fill="#000" />
    </svg>
  );
}
