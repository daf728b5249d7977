import { isPressed } from './as-run-class';
import type { AsRunRow } from './topics';

/** The rows of the as-run in words: what the list shows and what an export holds. */

export const asRunKinds = {
  all: 'everything',
  press: 'presses',
  link: 'links',
  reading: 'readings',
  other: 'aim, service, tally, notes',
} as const;
type AsRunKind = keyof typeof asRunKinds;

export function kindOfRow(row: AsRunRow): Exclude<AsRunKind, 'all'> {
  if (isPressed(row) || row.kind === 'begin' || row.kind === 'run') return 'press';
  return row.kind === 'link' || row.kind === 'reading' ? row.kind : 'other';
}

/** Something that did not go as it should. */
export function isTrouble(row: AsRunRow): boolean {
  if (row.kind === 'press' || row.kind === 'stop') return ['late', 'refused', 'lost'].includes(row.outcome);
  if (row.kind === 'note') return row.text.startsWith('Refused');
  if (row.kind === 'run') return row.past.how !== 'done';
  return row.kind === 'link' && !['up', 'one-way', 'not checked', 'off'].includes(row.link.word);
}

export function whatOf(row: AsRunRow): string {
  switch (row.kind) {
    case 'press':
      return `${row.page ? `${row.page} · ` : ''}${row.label || 'no label'}`;
    case 'link':
      return `${row.device} link`;
    case 'reading':
      return `${row.device} ${row.name ?? row.key}`;
    case 'aim':
      return 'Aim';
    case 'service':
      return 'Service';
    case 'stop':
      return `${row.device} ${row.command}`;
    case 'note':
      return 'Note';
    case 'begin':
      return `Macro ${row.macro} begins`;
    case 'run':
      return `Macro ${row.macro}`;
  }
}

export function outcomeOf(row: AsRunRow): string {
  switch (row.kind) {
    case 'press':
    case 'stop':
      return row.outcome;
    case 'link':
      return row.link.word;
    case 'reading':
      if (row.shown !== undefined) return row.shown;
      return typeof row.value === 'boolean' ? (row.value ? 'yes' : 'no') : String(row.value);
    case 'aim':
      return row.aim;
    case 'service':
      return row.revision === null ? 'setting up' : `revision ${row.revision}`;
    case 'note':
    case 'begin':
      return '';
    case 'run':
      return row.past.how;
  }
}

export const devicesOfRow = (row: AsRunRow): string[] =>
  row.kind === 'press'
    ? [...new Set(row.sends.map(({ device }) => device))]
    : row.kind === 'link' || row.kind === 'reading' || row.kind === 'stop'
      ? [row.device]
      : [];

export const whoOfRow = (row: AsRunRow): string =>
  row.kind === 'press' || row.kind === 'aim' || row.kind === 'begin' ? row.who : row.kind === 'run' ? row.past.who : '';

/** What was sent, in words: “SW1 Take Drone to program”. */
export const sentOf = (row: AsRunRow): string =>
  row.kind === 'press'
    ? row.sends.map(({ device, says, text, command }) => `${device} ${says ?? (text || command)}`).join(', ')
    : '';

/** What came of a press, as a sentence: “SW1 Take Drone to program, confirmed after 35 ms, by Director’s tablet”. */
export function reportText(row: Extract<AsRunRow, { kind: 'press' }>): string {
  const sent = sentOf(row);
  const after = row.outcome === 'confirmed' ? ` after ${row.ms < 10 ? row.ms.toFixed(1) : Math.round(row.ms)} ms` : '';
  return `${sent ? `${sent}, ` : ''}${row.outcome}${after}, by ${row.who}`;
}

/** Why, where that is said. */
const reasonOf = (row: AsRunRow): string => {
  switch (row.kind) {
    case 'press':
      return row.reason ?? '';
    case 'stop':
      return [`Stopped: ${row.why}`, row.reason].filter(Boolean).join(' · ');
    case 'link':
      return [
        row.changes === undefined ? '' : `The link changed ${row.changes} times since the row before`,
        [row.link.cause, row.link.detail].filter(Boolean).join(': '),
      ]
        .filter(Boolean)
        .join(' · ');
    case 'note':
      return row.text;
    case 'run':
      return row.past.reason ?? '';
    default:
      return '';
  }
};

/**
 * One row as fields of a table: durations in milliseconds, bytes as hexadecimal digits a send.
 *
 * @param timeText a time in milliseconds since 1970, as it shall stand there
 */
export function flatRow(
  row: AsRunRow,
  timeText: (at: number) => string,
): Readonly<Record<(typeof flatColumns)[number], string | number>> {
  const sends = row.kind === 'press' ? row.sends : [];
  return {
    n: row.n,
    time: timeText(row.at),
    kind: row.kind,
    who: whoOfRow(row),
    page: row.kind === 'press' ? row.page : '',
    what: row.kind === 'press' ? row.label : whatOf(row),
    devices: devicesOfRow(row).join(' '),
    outcome: outcomeOf(row),
    ms:
      row.kind === 'press' || row.kind === 'stop'
        ? Math.round(row.ms * 10) / 10
        : row.kind === 'run'
          ? Math.round(row.past.lengthMs)
          : '',
    sent: sends.map(({ device, text, command }) => `${device} ${text || command}`).join(' | '),
    bytes: sends.map(({ bytes }) => bytes ?? '').join(' '),
    reason: reasonOf(row),
  };
}

export const flatColumns = [
  'n',
  'time',
  'kind',
  'who',
  'page',
  'what',
  'devices',
  'outcome',
  'ms',
  'sent',
  'bytes',
  'reason',
] as const;
