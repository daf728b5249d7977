// npm run icons: draws the icons that faces can carry into one file, from the names in src/core/face/icons.ts.
import { writeFileSync } from 'node:fs';
import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { icons as drawn } from 'lucide-react';
import { icons } from '../src/core/face';

const symbols = Object.entries(icons).map(([name, { drawing }]) => {
  const icon = drawn[drawing as keyof typeof drawn];
  if (!icon) throw new Error(`There is no drawing ${drawing}.`);
  const inside = renderToStaticMarkup(createElement(icon))
    .replace(/^<svg[^>]*>/, '')
    .replace(/<\/svg>$/, '');
  return `<symbol id="${name}" viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="1.75" stroke-linecap="round" stroke-linejoin="round">${inside}</symbol>`;
});
writeFileSync(
  'src/ui/page/icons.svg',
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24">\n<!-- Made by npm run icons. The drawings are from lucide-react (ISC licence). -->\n${symbols.join('\n')}\n</svg>\n`,
);
