/** What a browser needs to install a panel as a program of its own (W3C Web Application Manifest). */
export const panelManifest = (path: string, name: string | undefined): object => {
  const start = path === 'all' || name === undefined ? '/panel' : `/panel/${path}`;
  return {
    id: start,
    name: name === undefined ? 'Sorrelfinch panel' : `${name} · Sorrelfinch`,
    short_name: name ?? 'Panel',
    start_url: start,
    scope: '/panel',
    display: 'fullscreen',
    display_override: ['fullscreen', 'standalone'],
    orientation: 'any',
    background_color: '#1c1917',
    theme_color: '#1c1917',
    icons: [
      { src: '/panel-icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' },
      { src: '/panel-icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'maskable' },
    ],
  };
};

/** A strip of label tape under a lamp bar. */
export const panelIcon = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 192 192"><rect width="192" height="192" fill="#1c1917"/><g transform="translate(36 52)"><rect width="120" height="26" fill="#b4552d"/><rect y="30" width="120" height="58" fill="#ede6dc"/><rect x="16" y="48" width="88" height="8" fill="#1c1917"/><rect x="16" y="64" width="56" height="8" fill="#1c1917"/></g></svg>`;
