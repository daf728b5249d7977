import { putBackOf } from '../../core/line-check';
import { everything, type AsRunRow, type ReplayLine, type ReplayOrder } from '../../core/live';
import { worstOutcome, type FinalOutcome } from '../../core/press';
import { comparePlayed, planReplay, type PastReport, type Played, type ReplayStep } from '../../core/replay';
import { expectationsOf } from '../../core/driver';
import { canStandIn } from '../../standins';
import { ownDevice } from '../../core/show';
import { openAsRunForReading, openShowForReading, readAsRun, runningShow } from '../../store';
import { PrivateRig } from '../line-check/private-rig';

/** How far before its beginning the record is looked through for the state to begin from. */
const stateMs = 24 * 3_600_000;
/** More rows than this are not played in one go. */
const mostRows = 200_000;
/** How much later than then a report may come. */
const laterMs = 1500;
const lookMs = 25;
const betweenMs = 60;
/** A press that has not ended by then is cut off. */
const longestMs = 120_000;

/**
 * Plays a part of the as-run again: the running show, in an engine of its own, at stand-ins that are first brought into the state that the
 * record knows. Tells each press with what differs from what came of it then.
 */
export async function replay(
  dataDir: string,
  { from, to, speed }: ReplayOrder,
  tell: (line: ReplayLine) => void,
  signal: AbortSignal,
): Promise<void> {
  const begunAt = performance.now();
  const plan = planReplay(rowsOf(dataDir, from, to), from, to);
  const show = readShow(dataDir);
  const rig = await PrivateRig.open(show.records, show.documents);
  try {
    const player = new Player(rig);
    const set = await player.set(plan.before, signal);
    tell({ t: 'begun', steps: plan.steps.length, set, left: plan.left });
    const first = plan.steps[0]?.at ?? from;
    const startedAt = performance.now();
    for (const step of plan.steps) {
      const dueMs = speed === 0 ? betweenMs : (step.at - first) / speed - (performance.now() - startedAt);
      await pause(Math.max(0, dueMs), signal);
      if (signal.aborted) return;
      const played = await player.play(step);
      const { differences, unmatched } = comparePlayed(step, played, (tag) => player.canStandIn(tag));
      const { n, at, page, label, who, outcome } = step;
      tell({ t: 'step', n, at, page, label, who, then: outcome, now: played.outcome ?? '–', differences, unmatched });
    }
    tell({ t: 'ended', tookMs: Math.round(performance.now() - begunAt) });
  } finally {
    await rig.close();
  }
}

class Player {
  private played = 0;

  constructor(private readonly rig: PrivateRig) {}

  canStandIn(tag: string): boolean {
    // The program itself is played by the private engine.
    if (tag === ownDevice.data.tag) return true;
    const device = this.rig.deviceByTag(tag);
    return device !== undefined && device.data.enabled && canStandIn(device.data.driver);
  }

  /**
   * Brings the stand-ins into the state that the record knows, as far as commands can; devices side by side. Returns how many readings were set.
   */
  async set(before: readonly PastReport[], signal: AbortSignal): Promise<number> {
    const byDevice = new Map<string, PastReport[]>();
    for (const report of before) {
      const own = byDevice.get(report.device);
      if (own) own.push(report);
      else byDevice.set(report.device, [report]);
    }
    const counts = await Promise.all([...byDevice].map(([tag, reports]) => this.setDevice(tag, reports, signal)));
    return counts.reduce((sum, count) => sum + count, 0);
  }

  private async setDevice(tag: string, reports: readonly PastReport[], signal: AbortSignal): Promise<number> {
    const device = this.rig.deviceByTag(tag);
    const document = device && this.rig.documentOf(device.id);
    if (!document || !this.canStandIn(tag)) return 0;
    let count = 0;
    for (const { key, value } of reports) {
      if (signal.aborted) return count;
      if (this.rig.valueNow({ device: device.id, key }) === value) continue;
      const back = putBackOf(document, device.id, [key], () => value);
      if (!back.ok) continue;
      for (const send of back.value.sends) await this.rig.send(send);
      if (this.rig.valueNow({ device: device.id, key }) === value) count += 1;
    }
    return count;
  }

  /** Makes a press again, and watches what comes of it. */
  async play(step: ReplayStep): Promise<Played> {
    const who = `replay-${(this.played += 1)}`;
    const calls: Played['calls'][number][] = [];
    const forget = this.rig.onSent((sent) => {
      for (const { device, command, params, outcome, who: by } of sent)
        if (by === who)
          calls.push({
            device: this.rig.device(device)?.data.tag ?? '?',
            command,
            params,
            says: this.rig.says(device, command, params),
            outcome,
          });
    });
    const waiting = this.watch(step);
    try {
      const ended = step.pressed
        ? await this.within(this.rig.press(step.pressed, who, !step.isUnconfirmed))
        : await this.sendAll(step, who);
      const missing = await waiting();
      return { ...ended, calls, missing };
    } finally {
      forget();
    }
  }

  private within(press: Promise<Pick<Played, 'outcome' | 'reason'>>): Promise<Pick<Played, 'outcome' | 'reason'>> {
    const cut = { reason: 'It had not ended after two minutes, and was cut off.' };
    return Promise.race([press, new Promise<typeof cut>((resolve) => setTimeout(resolve, longestMs, cut).unref())]);
  }

  /** What was not pressed on a control of a page: its commands, one after the other. */
  private async sendAll({ calls }: ReplayStep, who: string): Promise<Pick<Played, 'outcome' | 'reason'>> {
    const outcomes: FinalOutcome[] = [];
    for (const { device: tag, command, params } of calls) {
      const device = this.rig.deviceByTag(tag);
      if (!device) return { reason: `${tag} is no longer in the rig.` };
      outcomes.push((await this.rig.send({ device: device.id, command, params }, undefined, who)).outcome);
    }
    return { outcome: worstOutcome(outcomes) };
  }

  /**
   * Watches for what was reported then. Numbers that no command of the step is about change by themselves, and are left out.
   *
   * @returns waits for what is still missing, and says what did not come
   */
  private watch({ at, calls, brought, reports }: ReplayStep): () => Promise<Played['missing']> {
    const all = [...calls, ...brought];
    const about = new Set(all.flatMap((call) => this.effectsOf(call)));
    const touched = new Set(all.map(({ device }) => device));
    const left = new Set(
      reports.filter(
        ({ device, key, value }) =>
          touched.has(device) &&
          this.canStandIn(device) &&
          (typeof value !== 'number' || about.has(`${device} ${key}`)),
      ),
    );
    const look = () => {
      for (const report of left) if (this.valueOf(report) === report.value) left.delete(report);
    };
    const timer = setInterval(look, lookMs);
    const startedAt = performance.now();
    look();
    return async () => {
      const lastMs = Math.max(0, ...[...left].map((report) => report.at - at));
      const patienceMs = lastMs + laterMs - (performance.now() - startedAt);
      await this.rig.until(
        () => {
          look();
          return left.size === 0;
        },
        Math.max(laterMs, patienceMs),
      );
      clearInterval(timer);
      return [...left].map((report) => ({ report, now: String(this.valueOf(report) ?? 'not known') }));
    };
  }

  private valueOf({ device: tag, key }: PastReport) {
    const device = this.rig.deviceByTag(tag);
    return device && this.rig.valueNow({ device: device.id, key });
  }

  private effectsOf({ device: tag, command, params }: ReplayStep['calls'][number]): readonly string[] {
    const device = this.rig.deviceByTag(tag);
    const known = device && this.rig.documentOf(device.id)?.commands[command];
    const effects = known && expectationsOf(known, params, (key) => this.rig.valueNow({ device: device.id, key }));
    return (effects ?? []).map(({ key }) => `${tag} ${key}`);
  }
}

function rowsOf(dataDir: string, from: number, to: number): readonly AsRunRow[] {
  const opened = openAsRunForReading(dataDir);
  try {
    const rows: AsRunRow[] = [];
    for (const piece of readAsRun(opened.db, { ...everything, from: from - stateMs, to })) {
      for (const { row } of piece) rows.push(row);
      if (rows.length > mostRows)
        throw new Error(
          `There are more than ${mostRows.toLocaleString('en')} rows in this time. Choose a shorter one.`,
        );
    }
    return rows;
  } finally {
    opened.close();
  }
}

function readShow(dataDir: string) {
  const { db, close } = openShowForReading(dataDir);
  try {
    return runningShow(db);
  } finally {
    close();
  }
}

const pause = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    const end = () => {
      clearTimeout(timer);
      signal.removeEventListener('abort', end);
      resolve();
    };
    const timer = setTimeout(end, ms);
    signal.addEventListener('abort', end);
  });
