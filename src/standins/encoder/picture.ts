import type { EncoderState } from './model';

/** What the encoder sends, drawn: a river that flows while a picture comes in, and what becomes of it in figures. */
export function encoderPicture({ stream, kbps, recording, streamSeconds, inputPresent }: EncoderState): string {
  const at = (streamSeconds % 20) * 16;
  const picture = inputPresent
    ? `<rect width="640" height="360" fill="#35617a"/><path d="M0 230Q80 200 160 230T320 230T480 230T640 230V360H0Z" fill="#274a5e"/><path d="M${at + 40} 210h90l-18 26h-54z" fill="#e9dcc7"/>`
    : '<rect width="640" height="360" fill="#101418"/><text x="320" y="190" font-size="30" text-anchor="middle" fill="#cfd4d8">no picture at the input</text>';
  const words = `${stream}${stream === 'live' ? `, ${kbps} kbit/s` : ''}${recording ? ', recording' : ''}`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="640" height="360" viewBox="0 0 640 360" font-family="sans-serif" role="img" aria-label="The output of the encoder">${picture}<rect x="16" y="312" width="330" height="34" fill="#000a"/><text x="28" y="336" font-size="20" fill="#fff">${words}</text></svg>`;
}
