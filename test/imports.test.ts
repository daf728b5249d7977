import { cruise, type ICruiseResult } from 'dependency-cruiser';
import { describe, expect, it } from 'vitest';

/**
 * Imports go one way, types included:
 * app → ui, store, core · ui → core · engine → store, drivers, core · server → engine · standins → core/wire, core/timers · store, prober, pictures → core
 */
const allowed: Readonly<Record<string, readonly string[]>> = {
  core: [],
  drivers: [],
  standins: ['core/wire', 'core/timers', 'http'],
  log: [],
  http: ['core/wire'],
  prober: ['http', 'core'],
  pictures: ['http', 'core'],
  store: ['core'],
  ui: ['core'],
  engine: ['store', 'drivers', 'http', 'log', 'core'],
  // The front door, the supervisor and the one-shot preparation put the whole program together.
  server: ['engine', 'prober', 'pictures', 'store', 'standins', 'drivers', 'http', 'log', 'core'],
  app: [
    'ui',
    'store',
    'core',
    'drivers',
    'server/child-messages',
    'server/principal-header',
    'server/settings',
    'server/given-certificate',
  ],
};

const cruised = await cruise(['src'], {
  tsPreCompilationDeps: true,
  exclude: { path: '\\.test\\.ts$' },
  doNotFollow: { path: 'node_modules' },
  ruleSet: { forbidden: [{ name: 'cycle', severity: 'error', from: {}, to: { circular: true } }] },
});
const { modules, summary } = cruised.output as ICruiseResult;
const edges = modules.flatMap((module) =>
  module.dependencies
    .map(({ resolved }) => ({ from: module.source, to: resolved }))
    .filter(({ from }) => from.startsWith('src/')),
);
const areaOf = (file: string) => file.split('/')[1] ?? '';

/** The folder of a file of the engine: `presses` for `src/engine/presses/presses.ts`. */
const roomOf = (file: string): string | undefined => /^src\/engine\/([^/]+)\//.exec(file)?.[1];

/** A way from a room through others back to it, if there is one. */
function ringThrough(room: string, between: ReadonlyMap<string, ReadonlySet<string>>): string[] {
  const ways = [[room]];
  const seen = new Set<string>();
  for (let way = ways.pop(); way; way = ways.pop()) {
    for (const next of between.get(way.at(-1) ?? '') ?? []) {
      if (next === room) return [[...way, next].join(' → ')];
      if (seen.has(next)) continue;
      seen.add(next);
      ways.push([...way, next]);
    }
  }
  return [];
}

describe('imports', () => {
  it('are all seen by this test', () => {
    expect(modules.filter(({ source }) => source.startsWith('src/')).length).toBeGreaterThan(100);
    expect(edges.length).toBeGreaterThan(300);
  });

  it('go one way between the areas of the program', () => {
    const wrong = edges.filter(({ from, to }) => {
      if (!to.startsWith('src/') || areaOf(from) === areaOf(to)) return false;
      return !(allowed[areaOf(from)] ?? []).some(
        (each) => to === `src/${each}.ts` || to.startsWith(`src/${each}/`) || to === `src/${each}`,
      );
    });
    expect(wrong).toEqual([]);
  });

  it('have no cycle', () => {
    expect(summary.violations.map(({ from, to }) => `${from} → ${to}`)).toEqual([]);
  });

  it('go one way between the rooms of the engine, whose root only composes them', () => {
    const between = new Map<string, Set<string>>();
    for (const { from, to } of edges) {
      const [a, b] = [roomOf(from), roomOf(to)];
      if (a && b && a !== b) between.set(a, (between.get(a) ?? new Set()).add(b));
    }
    expect(between.size).toBeGreaterThan(8);
    expect([...between.keys()].flatMap((room) => ringThrough(room, between))).toEqual([]);
    const inRoot = modules.flatMap(({ source }) => /^src\/engine\/([^/]+)\.ts$/.exec(source)?.[1] ?? []);
    expect(inRoot.sort()).toEqual(['engine', 'index', 'parts']);
  });

  it('of core bring in nothing of Node.js and nothing of React', () => {
    const wrong = edges.filter(
      ({ from, to }) =>
        from.startsWith('src/core/') &&
        !to.startsWith('src/core/') &&
        !/(^|\/)(zod|re2js|@marcbachmann\/cel-js|@noble\/hashes|ipaddr\.js|papaparse|croner|saxes|fastest-levenshtein)(\/|$)/.test(
          to,
        ),
    );
    expect(wrong).toEqual([]);
  });
});
