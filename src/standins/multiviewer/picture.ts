/** What the multiviewer shows, drawn: a picture for each display, with its name and its lamps. */

interface Drawn {
  readonly number: number;
  readonly text: string;
  readonly left: string;
  readonly right: string;
}

const colours: Readonly<Record<string, string>> = { red: '#d0342c', green: '#2f9e57', amber: '#d99a1e' };
const safe = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

export function multiviewPicture(tiles: readonly Drawn[]): string {
  const drawn = tiles.map(({ number, text, left, right }, n) => {
    const [x, y] = [(n % 4) * 320, Math.floor(n / 4) * 240];
    const lamp = (colour: string, at: number) =>
      `<rect x="${at}" y="200" width="26" height="26" fill="${colours[colour] ?? '#20262c'}"/>`;
    return `<g transform="translate(${x} ${y})"><rect x="6" y="6" width="308" height="184" fill="hsl(${(number * 47) % 360} 30% 28%)"/><text x="20" y="120" font-size="72" fill="#fff8">${number}</text>${lamp(left, 8)}${lamp(right, 286)}<text x="160" y="220" font-size="22" text-anchor="middle" fill="#fff">${safe(text)}</text></g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="720" viewBox="0 0 1280 720" font-family="sans-serif" role="img" aria-label="The multiviewer"><rect width="1280" height="720" fill="#0b0e11"/>${drawn.join('')}</svg>`;
}
