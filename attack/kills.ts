import { Program, runs } from '../e2e/program';
import type { AsRunRow } from '../src/core/live';
import { openShow, recordsOfKind } from '../src/store';
import { Panel } from './panel';
import { becomes, note, percentile, sleep } from './report';

const cameras = 'page-cameras';
const programs = [1, 2, 3, 4, 5, 6].map((n) => `ctl-program-${n}`);

/** Kills the engine again and again while a show is worked: no edit, no outcome that was shown, and no held move may be lost. */
export async function kills(times: number): Promise<void> {
  const program = await Program.start(undefined, undefined, { SPARE_ENGINE: 'on' });
  const panel = new Panel(program.url, 'kills', ['page-race', cameras]);
  const shown = new Map<string, string>();
  /** Times until the panel was true again: with a spare engine ready, and killed again before there was one. */
  const toTrue = { spare: [] as number[], none: [] as number[] };
  let [edits, ranOn] = [0, 0];
  try {
    await becomes(() => panel.isTrue('page-race', programs), 10_000);
    const left = await heldControl(program);
    for (let n = 0; n < times; n += 1) {
      await becomes(() => panel.isTrue('page-race', programs), 10_000);
      const withSpare = n % 2 === 0;
      if (withSpare) await becomes(() => hasSpare(program), 20_000);
      const held = panel.press(cameras, left, 'hold');
      const still = setInterval(() => panel.say({ t: 'still', id: held }), 200);
      // One that was not acknowledged may be there all the same.
      edits += (await addPage(program, n).catch(() => false)) ? 1 : 0;
      for (let k = 0; k < 8; k += 1) {
        panel.press('page-race', `ctl-program-${(k % 6) + 1}`);
        await sleep(15);
      }
      await sleep(Math.random() * 250);
      // As a kill comes: at any moment between a press and its outcome.
      clearInterval(still);
      process.kill(await pidOf(program, 'engine'), 'SIGKILL');
      const killedAt = performance.now();
      const { opens } = panel;
      await sleep(30);
      for (const [id, outcome] of panel.outcomes) shown.set(id, outcome);
      await becomes(() => panel.opens > opens && panel.isTrue('page-race', programs), 15_000);
      toTrue[withSpare ? 'spare' : 'none'].push(performance.now() - killedAt);
      if (!(await becomes(async () => !(await anyMoves(program)), 4000))) ranOn += 1;
    }
    await sleep(1500);
    const rows = await pressesOf(program);
    const missing = [...shown].filter(([id, outcome]) => rows.get(id) !== outcome && outcome !== 'lost');
    note(
      `engine killed ${times} times: outcomes`,
      `${shown.size} shown, ${missing.length} not in the record`,
      missing.length === 0,
    );
    note(`engine killed ${times} times: held moves`, `${ranOn} ran on`, ranOn === 0);
    const { db, close } = openShow(program.dataDir);
    const kept = recordsOfKind(db, 'page').filter(({ id }) => id.startsWith('page-attack-')).length;
    close();
    note(`engine killed ${times} times: edits`, `${edits} acknowledged, ${kept} kept`, kept >= edits && edits > 0);
    for (const [which, times, limit] of [
      ['with a spare ready', toTrue.spare, 1000],
      ['killed again at once', toTrue.none, 3000],
    ] as const) {
      const [p50, p95] = [percentile(times, 0.5), percentile(times, 0.95)];
      const found = `${times.length} times, p50 ${p50.toFixed(0)} ms, p95 ${p95.toFixed(0)} ms`;
      note(`panels true again, ${which}`, found, p50 <= limit);
    }
    await others(program, panel);
    await hangs(program, panel);
  } finally {
    panel.close();
    await program.stop();
  }
}

const hasSpare = async (program: Program): Promise<boolean> =>
  (await program.health().catch(() => undefined))?.processes.some(({ name }) => name === 'spare engine') ?? false;

/** Every other process is killed as well: presses go on meanwhile. */
async function others(program: Program, panel: Panel): Promise<void> {
  const names = (await program.health()).processes.map(({ name }) => name).filter((name) => name !== 'engine');
  let lost = 0;
  for (const name of names) {
    process.kill(await pidOf(program, name), 'SIGKILL');
    // Without its stand-in there is no switcher to confirm anything.
    if (name === 'stand-ins') {
      await becomes(async () => (await program.health()).ok, 15_000);
      continue;
    }
    const ids = Array.from({ length: 10 }, (_, n) => panel.press('page-race', `ctl-program-${(n % 6) + 1}`));
    await becomes(() => ids.every((id) => panel.outcomes.has(id)), 4000);
    lost += ids.filter((id) => !['confirmed', 'late'].includes(panel.outcomes.get(id) ?? 'none')).length;
    await becomes(async () => (await program.health()).processes.every(({ state }) => state === 'running'), 20_000);
  }
  note(`each of ${names.length} other processes killed`, `${lost} presses lost meanwhile`, lost === 0);
}

async function hangs(program: Program, panel: Panel): Promise<void> {
  const pid = await pidOf(program, 'engine');
  process.kill(pid, 'SIGSTOP');
  const from = performance.now();
  const ended = await becomes(() => !runs(pid), 5000);
  note(
    'engine stopped (hangs)',
    `ended after ${((performance.now() - from) / 1000).toFixed(1)} s`,
    ended && performance.now() - from < 3500,
  );
  await becomes(() => panel.isTrue('page-race', programs), 15_000);
}

/** Its number, once the program answers: the connection of an engine that was killed may be used once more. */
async function pidOf(program: Program, name: string): Promise<number> {
  let pid = 0;
  await becomes(async () => (pid = await program.pidOf(name)) > 0, 20_000);
  // Zero would be this very process and all that it has started.
  if (pid === 0) throw new Error(`${name} did not come back.`);
  return pid;
}

const camerasOf = ['c1', 'c2', 'c3', 'c4'];
const stateOf = async (program: Program, tag: string) =>
  (await (await fetch(`${program.standinUrl}/${tag}/state`)).json()) as { moving: boolean };
const anyMoves = async (program: Program) =>
  (await Promise.all(camerasOf.map((tag) => stateOf(program, tag)))).some(({ moving }) => moving);

/** A control of the cameras' page that moves something while it is held. */
async function heldControl(program: Program): Promise<string> {
  const { db, close } = openShow(program.dataDir);
  const found = recordsOfKind(db, 'control').find(({ data }) => data.page === cameras && data.responses.held?.length);
  close();
  if (!found) throw new Error('The demo show has no control that is held.');
  return found.id;
}

async function addPage(program: Program, n: number): Promise<boolean> {
  const data = { name: `Attack ${n}`, order: 100 + n, columns: 2, rows: 2, note: '', zones: [] };
  const record = { kind: 'page', id: `page-attack-${n}`, version: 1, data };
  const body = JSON.stringify({ edit: { title: 'Attack', changes: [{ op: 'add', record }] }, window: 'attackwindow' });
  const answer = await fetch(`${program.url}/desk/edit`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body,
  });
  return ((await answer.json()) as { ok: boolean }).ok;
}

/** What the record says of each press. */
async function pressesOf(program: Program): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  let before: number | undefined;
  do {
    const query = before === undefined ? '' : `&before=${before}`;
    const url = `${program.url}/desk/as-run?kind=press${query}`;
    // A second time, for the connection of an engine that was killed may be used once more.
    const answer = await fetch(url).catch(() => fetch(url));
    const part = (await answer.json()) as { rows: AsRunRow[]; before?: number };
    for (const row of part.rows) if (row.kind === 'press') found.set(row.press, row.outcome);
    before = part.before;
  } while (before !== undefined);
  return found;
}
