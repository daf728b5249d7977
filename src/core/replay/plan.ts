import { tallySender, type AsRunRow, type PressedControl } from '../live';
import type { Scalar } from '../result';
import type { FinalOutcome } from '../press';

type PressRow = Extract<AsRunRow, { kind: 'press' }>;

/** A command that was sent then. */
export interface PastCall {
  /** The tag of the device. */
  readonly device: string;
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
  readonly says: string;
  readonly outcome: FinalOutcome;
}

/** Something that a device reported then. */
export interface PastReport {
  readonly device: string;
  readonly key: string;
  readonly value: Scalar;
  /** The reading and its value in words. */
  readonly says: string;
  /** In milliseconds since 1970. */
  readonly at: number;
}

/** One press of the record, as it can be made again. */
export interface ReplayStep {
  /** The row in the as-run. */
  readonly n: number;
  /** When it was pressed, in milliseconds since 1970. */
  readonly at: number;
  readonly page: string;
  readonly label: string;
  readonly who: string;
  readonly outcome: FinalOutcome;
  /** The control, where a stored one was pressed; else its commands are sent. */
  readonly pressed?: PressedControl;
  readonly calls: readonly PastCall[];
  /** What was reported from then until the next press, at the longest for a few seconds. */
  readonly reports: readonly PastReport[];
}

interface ReplayPlan {
  readonly steps: readonly ReplayStep[];
  /** What every reading was before, as far as the record knows: the state to begin from. */
  readonly before: readonly PastReport[];
  /** Presses that cannot be made again, with the reason. */
  readonly left: readonly { readonly n: number; readonly label: string; readonly why: string }[];
}

/** What is reported later than this after a press is hardly its effect. */
const effectMs = 3000;

/**
 * What of an as-run can be played again: every press that went to devices or stand-ins, with all that it sent. What the steps of a macro sent
 * belongs to the press that began it; a macro that nobody pressed is played as its commands.
 *
 * @param rows in the order of the record, from some time before `from`
 * @param from in milliseconds since 1970, like `to`
 */
export function planReplay(rows: readonly AsRunRow[], from: number, to: number): ReplayPlan {
  const runs = runsByPress(rows);
  const steps: Omit<ReplayStep, 'reports'>[] = [];
  const left: { n: number; label: string; why: string }[] = [];
  for (const row of rows) {
    // Tally follows by itself, then as now.
    if (row.kind !== 'press' || row.at < from || row.at > to || row.who === tallySender) continue;
    if (row.run !== undefined && runs.owned.has(row.run)) continue;
    const step = stepOf(row, runs.ofPress.get(row.press) ?? []);
    if (typeof step === 'string') left.push({ n: row.n, label: row.label, why: step });
    else steps.push(step);
  }
  steps.sort((a, b) => a.at - b.at);
  const readings = rows.filter((row) => row.kind === 'reading');
  return {
    steps: steps.map((step, n) => {
      const end = Math.min(steps[n + 1]?.at ?? Infinity, step.at + effectMs);
      const reports = readings.filter(({ at }) => at >= step.at && at < end).map(reportOf);
      return { ...step, reports };
    }),
    before: lastOf(readings.filter(({ at }) => at < from).map(reportOf)),
    left,
  };
}

function stepOf(row: PressRow, ofRun: readonly PressRow[]): Omit<ReplayStep, 'reports'> | string {
  const { n, at, ms, page, label, who, outcome, pressed, aim } = row;
  if (aim === 'dry') return 'It was pressed with the aim dry, so nothing was sent.';
  const sends = [row, ...ofRun].flatMap((each) => each.sends).filter(({ device }) => device !== 'macro');
  if (!pressed && sends.length === 0) return 'Nothing was sent.';
  const calls = sends.map(({ device, call, says, command, outcome: ended }) =>
    call ? { device, ...call, says: says ?? command, outcome: ended } : undefined,
  );
  if (calls.includes(undefined)) return 'It was recorded by an earlier version, without the values of its commands.';
  const base = { n, at: at - ms, page, label, who, outcome, calls: calls.filter((call) => call !== undefined) };
  return pressed ? { ...base, pressed } : base;
}

/** Which runs of macros were begun by which press, with the rows of their steps. */
function runsByPress(rows: readonly AsRunRow[]) {
  const stepsOf = new Map<string, PressRow[]>();
  for (const row of rows)
    if (row.kind === 'press' && row.run !== undefined) stepsOf.set(row.run, [...(stepsOf.get(row.run) ?? []), row]);
  const owned = new Set<string>();
  const ofPress = new Map<string, readonly PressRow[]>();
  for (const row of rows) {
    if (row.kind !== 'press' || row.run !== undefined || !row.sends.some(({ device }) => device === 'macro')) continue;
    // The row of a press is written at its end, that of the beginning of its macro at its beginning.
    const began = rows.find(
      (each) =>
        each.kind === 'begin' && each.who === row.who && !owned.has(each.run) && each.at >= row.at - row.ms - slackMs,
    );
    if (began?.kind !== 'begin' || began.at > row.at) continue;
    owned.add(began.run);
    ofPress.set(row.press, stepsOf.get(began.run) ?? []);
  }
  return { owned, ofPress };
}

const slackMs = 100;

function reportOf({ at, device, key, value, name, shown }: Extract<AsRunRow, { kind: 'reading' }>): PastReport {
  return { at, device, key, value, says: `${device} ${name ?? key}: ${shown ?? String(value)}` };
}

function lastOf(reports: readonly PastReport[]): readonly PastReport[] {
  return [...new Map(reports.map((report) => [`${report.device} ${report.key}`, report])).values()];
}
