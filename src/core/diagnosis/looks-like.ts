/** Services that are often met on the wrong port, by the first bytes they say. Names are the protocols'. */
const known: readonly { readonly fits: RegExp; readonly name: string }[] = [
  { fits: /^HTTP\/\d/, name: 'a web server (HTTP)' },
  { fits: /^SSH-/, name: 'a remote shell (SSH)' },
  { fits: /^RFB \d/, name: 'a remote screen (RFB)' },
  { fits: /^RTSP\/\d/, name: 'a video stream (RTSP)' },
  { fits: /^PJLINK /, name: 'a projector (PJLink)' },
  { fits: /^220[ -].*ftp/i, name: 'a file server (FTP)' },
  { fits: /^220[ -]/, name: 'a mail or file server' },
  { fits: /^\* OK/, name: 'a mail server (IMAP)' },
  { fits: /^\xff[\xfb-\xfe]/, name: 'a terminal (Telnet)' },
  { fits: /^\x15\x03|^\x16\x03/, name: 'an encrypted service (TLS)' },
  { fits: /^[{[]\s*["{[\]}]/, name: 'a service that speaks JSON' },
  { fits: /^\x90[\x30-\x7f][^\xff]*\xff/, name: 'a camera (VISCA)' },
  { fits: /^\x01[\x11\x20][\x00-\xff]{6}\x90/, name: 'a camera (VISCA over IP)' },
  { fits: /^#bundle\0|^\/[!-~]+\0+,/, name: 'a service that speaks OSC' },
];

/**
 * What a service is that says this first, in words, with what it said where that is text; `undefined` when nothing is
 * recognised and it is no text either.
 */
export function looksLike(heard: Uint8Array): string | undefined {
  const found = serviceOf(heard);
  const said = textOf(latin1(heard));
  if (found) return said ? `${found}; it said “${said}”` : found;
  return said && `an unknown service; it said “${said}”`;
}

/** The name of a service that is known by its first bytes. */
export const serviceOf = (heard: Uint8Array): string | undefined => {
  const text = latin1(heard);
  return known.find(({ fits }) => fits.test(text))?.name;
};

const latin1 = (bytes: Uint8Array): string =>
  Array.from(bytes.subarray(0, 300), (byte) => String.fromCharCode(byte)).join('');

/** The first line, when most of it can be read. */
function textOf(text: string): string | undefined {
  const [line = ''] = text.split(/[\r\n\0]/).filter(Boolean);
  const odd = line.match(/[^\x20-\x7e]/g)?.length ?? 0;
  return line.length >= 2 && odd === 0 ? line.slice(0, 80) : undefined;
}
