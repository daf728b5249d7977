import type { Box, SwitcherState } from './model';

/** The switcher’s outputs, drawn: each input has a colour of its own, its number and its name. */

const hues = [205, 150, 45, 275, 185, 95, 320, 25, 240, 0, 60, 175];
const [width, height] = [320, 180];
/** The input that is the layout of boxes. */
const layoutInput = 10;
const safe = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

function inputOf(state: SwitcherState, input: number): string {
  const hue = hues[input - 1] ?? 0;
  const name = safe(state.names[input - 1] ?? '');
  return `<rect width="${width}" height="${height}" fill="hsl(${hue} 55% 34%)"/><path d="M0 130Q80 112 160 130T320 130V180H0Z" fill="hsl(${hue} 60% 24%)"/><text x="18" y="96" font-size="88" font-weight="700" fill="#fff">${input}</text><text x="20" y="160" font-size="22" fill="#fff">${name}</text>`;
}

function boxOf(state: SwitcherState, { source, x, y, size, crop }: Box): string {
  const scale = size / 100;
  const [left, top, right, bottom] = crop.map((edge) => edge / 100) as [number, number, number, number];
  const at = `translate(${(x / 1000) * width - (scale * width) / 2} ${(y / 1000) * height - (scale * height) / 2}) scale(${scale})`;
  const cut = `viewBox="${left * width} ${top * height} ${(1 - left - right) * width} ${(1 - top - bottom) * height}"`;
  return `<g transform="${at}"><svg x="${left * width}" y="${top * height}" width="${(1 - left - right) * width}" height="${(1 - top - bottom) * height}" ${cut}>${inputOf(state, source)}</svg></g>`;
}

function sourceOf(state: SwitcherState, input: number): string {
  if (input !== layoutInput) return inputOf(state, input);
  const boxes = state.boxes.filter(({ on }) => on).map((box) => boxOf(state, box));
  return `<rect width="${width}" height="${height}" fill="#10161c"/>${boxes.join('')}`;
}

/** What goes out, or what is ready to: with keys and fade on program. */
export function outputPicture(state: SwitcherState, output: 'program' | 'preview'): string {
  const layers = [sourceOf(state, output === 'program' ? state.program : state.preview)];
  if (output === 'program') {
    if (state.mixed !== null)
      layers.push(`<g opacity="${state.mixed / state.rate}">${sourceOf(state, state.preview)}</g>`);
    state.keys.forEach(({ on, source }, n) => {
      if (!on) return;
      const name = safe(state.names[source - 1] ?? '');
      layers.push(
        `<rect x="18" y="${140 - n * 26}" width="190" height="22" fill="#e6e8ea"/><text x="26" y="${156 - n * 26}" font-size="15" fill="#111">Key ${n + 1}: ${name}</text>`,
      );
    });
    if (state.black > 0)
      layers.push(
        `<rect width="${width}" height="${height}" fill="#000" opacity="${Math.min(1, state.black / state.rate)}"/>`,
      );
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" width="960" height="540" viewBox="0 0 ${width} ${height}" font-family="sans-serif" role="img" aria-label="The ${output} of the switcher">${layers.join('')}</svg>`;
}
