import { tallySender, type AsRunRow, type PressedControl } from '../live';
import type { Scalar } from '../result';
import { ownDevice } from '../show';
import type { FinalOutcome } from '../press';

type PressRow = Extract<AsRunRow, { kind: 'press' }>;
type ReadingRow = Extract<AsRunRow, { kind: 'reading' }>;

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
  /** It had to be confirmed and was not: it is not confirmed now. */
  readonly isUnconfirmed?: true;
  readonly calls: readonly PastCall[];
  /** What a snapshot sent that it called up. It is not sent again: the snapshot is called up again, and what it brought about is looked for. */
  readonly brought: readonly PastCall[];
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
  const called = callsByPress(rows);
  const steps: Omit<ReplayStep, 'reports'>[] = [];
  const left: { n: number; label: string; why: string }[] = [];
  for (const row of rows) {
    // Tally follows by itself, then as now.
    if (row.kind !== 'press' || row.at < from || row.at > to || row.who === tallySender) continue;
    if ((row.run !== undefined && runs.owned.has(row.run)) || called.owned.has(row)) continue;
    const ofRun = runs.ofPress.get(row.press) ?? [];
    const step = stepOf(
      row,
      ofRun,
      [row, ...ofRun].flatMap((each) => called.ofPress.get(each) ?? []),
    );
    if (typeof step === 'string') left.push({ n: row.n, label: row.label, why: step });
    else steps.push(step);
  }
  steps.sort((a, b) => a.at - b.at);
  // What has come to rest is entered a moment after it did.
  const readings = rows.filter((row) => row.kind === 'reading').sort((a, b) => a.at - b.at);
  const rested = atRest(readings);
  return {
    steps: steps.map((step, n) => {
      const end = Math.min(steps[n + 1]?.at ?? Infinity, step.at + effectMs);
      const reports = rested.filter(({ at }) => at >= step.at && at < end).map(reportOf);
      return { ...step, reports };
    }),
    before: lastOf(readings.filter(({ at }) => at < from).map(reportOf)),
    left,
  };
}

function stepOf(
  row: PressRow,
  ofRun: readonly PressRow[],
  ofCalls: readonly PressRow[],
): Omit<ReplayStep, 'reports'> | string {
  const { n, at, ms, page, label, who, outcome, pressed, aim } = row;
  if (aim === 'dry') return 'It was pressed with the aim dry, so nothing was sent.';
  const sends = [row, ...ofRun].flatMap((each) => each.sends).filter(({ device }) => device !== 'macro');
  if (!pressed && sends.length === 0) return 'Nothing was sent.';
  const calls = sends.map(callOf);
  if (calls.includes(undefined)) return 'It was recorded by an earlier version, without the values of its commands.';
  const brought = ofCalls.flatMap((each) => each.sends).flatMap((send) => callOf(send) ?? []);
  const base = {
    n,
    at: at - ms,
    page,
    label,
    who,
    outcome,
    calls: calls.filter((call) => call !== undefined),
    brought,
  };
  const isGuarded = [row, ...row.sends].some(({ why }) => why === 'guarded');
  return { ...base, ...(pressed ? { pressed } : {}), ...(isGuarded ? { isUnconfirmed: true as const } : {}) };
}

const callOf = ({ device, call, says, command, outcome }: PressRow['sends'][number]): PastCall | undefined =>
  call ? { device, ...call, says: says ?? command, outcome } : undefined;

/** Which call-ups of snapshots belong to which press: both rows have who pressed, and to the fraction how long it took. */
function callsByPress(rows: readonly AsRunRow[]) {
  const presses = rows.filter((row): row is PressRow => row.kind === 'press');
  const calls = new Map<string, PressRow>();
  const idOf = (who: string, ms: number) => `${who} ${ms}`;
  for (const row of presses) if (row.page === '' && !row.pressed) calls.set(idOf(row.who, row.ms), row);
  const owned = new Set<PressRow>();
  const ofPress = new Map<PressRow, readonly PressRow[]>();
  for (const row of presses) {
    const own = row.sends.flatMap(({ device, ms }) =>
      device === ownDevice.data.tag ? (calls.get(idOf(row.who, ms)) ?? []) : [],
    );
    const near = own.filter((call) => call !== row && Math.abs(call.at - row.at) < 1000);
    for (const call of near) owned.add(call);
    if (near.length > 0) ofPress.set(row, near);
  }
  return { owned, ofPress };
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

/** A number that is followed by another this soon was on its way: a glide or a fader passes by other numbers each time. */
const movesForMs = 1000;

/** The reports without the numbers that something passed on its way to another. */
function atRest(readings: readonly ReadingRow[]): ReadingRow[] {
  const nextAt = new Map<string, number>();
  const rested: ReadingRow[] = [];
  for (const row of [...readings].reverse()) {
    const key = `${row.device} ${row.key}`;
    const next = nextAt.get(key) ?? Infinity;
    nextAt.set(key, row.at);
    if (typeof row.value !== 'number' || next - row.at > movesForMs) rested.push(row);
  }
  return rested.reverse();
}

function reportOf({ at, device, key, value, name, shown }: ReadingRow): PastReport {
  return { at, device, key, value, says: `${device} ${name ?? key}: ${shown ?? String(value)}` };
}

function lastOf(reports: readonly PastReport[]): readonly PastReport[] {
  return [...new Map(reports.map((report) => [`${report.device} ${report.key}`, report])).values()];
}
