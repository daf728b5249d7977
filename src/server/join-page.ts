import type { IncomingMessage, ServerResponse } from 'node:http';
import { panelCookie, type Engine } from '../engine';

const shell = (body: string): string => `<!doctype html><html lang="en"><head><meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1"><meta name="robots" content="noindex"><title>Join · Sorrelfinch</title>
<style>body{font:18px/1.5 sans-serif;max-width:32rem;margin:12vh auto;padding:0 1.2rem;background:#1c1917;color:#ede6dc}
button{font:inherit;font-weight:700;min-height:56px;width:100%;background:#ede6dc;color:#1c1917;border:0}</style></head><body>${body}</body></html>`;

/** Answers what has to do with joining: a page with one button, and what that button does. True when it was that. */
export function answerJoin(req: IncomingMessage, res: ServerResponse, engine: Engine, secure: boolean): boolean {
  const [, token, shows = '', tag = ''] =
    /^\/join\/([A-Za-z0-9_-]{10,80})(?:\?(tally|clock)=([A-Za-z][A-Za-z0-9_]{0,39})|\?for=walk)?$/.exec(
      req.url ?? '',
    ) ?? [];
  if (token === undefined) return false;
  const html = (status: number, body: string) => {
    res.writeHead(status, {
      'content-type': 'text/html; charset=utf-8',
      'cache-control': 'no-store',
      // With no referrer at all the browser would not say where the form comes from either.
      'referrer-policy': 'same-origin',
      'content-security-policy':
        "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'",
    });
    res.end(shell(body));
  };
  // Looking at the address uses nothing up: programs that show previews of links look too.
  if (req.method !== 'POST') {
    html(200, question(...askedOf(req.url?.endsWith('?for=walk') ? 'walk' : shows, tag)));
    return true;
  }
  req.resume();
  const result = engine.panels.join(token, deviceOf(req.headers['user-agent']));
  if (!result.ok) {
    html(
      410,
      result.why === 'used'
        ? '<h1>This way in has been used</h1><p>Each one is good once. Ask at the desk for a new one.</p>'
        : '<h1>This way in is not known</h1><p>It may be older than ten minutes, or the program was started anew. Ask at the desk for a new one.</p>',
    );
    return true;
  }
  res.writeHead(303, {
    location: `/panel/${result.path}${shows !== '' && result.path === shows ? `/${tag}` : ''}`,
    'set-cookie': `${panelCookie}=${result.credential}; HttpOnly; SameSite=Strict; Path=/; Max-Age=31536000${secure ? '; Secure' : ''}`,
    'cache-control': 'no-store',
  });
  res.end();
  return true;
}

/** What somebody is asked who comes in, by what the screen will be for. */
function askedOf(purpose: string, tag: string): readonly [title: string, text: string] {
  switch (purpose) {
    case 'tally':
      return [
        `Join as the tally of ${tag}`,
        `This screen will show whether ${tag} is on air. It has no buttons to press.`,
      ];
    case 'clock':
      return [`Join as the clock ${tag}`, `This screen will show the clock ${tag}. It has no buttons to press.`];
    case 'walk':
      return [
        'Join for the walk-round',
        'This phone will ask the questions of the line check. It has no buttons to press.',
      ];
    default:
      return ['Join as a panel', 'This screen will show and press what its panel has, and nothing else.'];
  }
}

const question = (title: string, text: string): string =>
  `<h1>${title}</h1><p>${text}</p><form method="post"><button>Join</button></form>`;

/** What a browser says that it runs on, in a word or two. */
function deviceOf(agent: string | undefined): string {
  const known = ['iPad', 'iPhone', 'Android', 'Windows', 'Macintosh', 'CrOS', 'Linux'];
  return known.find((word) => agent?.includes(word)) ?? 'a browser';
}
