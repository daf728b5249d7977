import type { Why } from '../press';
import type { Explanation, Moment } from './explanation';

/** One line of an account as people read it. */
export interface ExplainLine {
  readonly key: string;
  /** Since the engine received the press, in milliseconds. */
  readonly ms: number;
  readonly title: string;
  readonly detail?: string;
  /** What went over the wire, two digits a byte. */
  readonly bytes?: string;
  /** `stop` is where the press came to its end without its effect. */
  readonly tone: 'plain' | 'done' | 'stop';
}

const gestureWords: Readonly<Record<string, string>> = { tap: 'Tapped', hold: 'Held', turn: 'Turned' };

/** What to do about a press that ended so. What went well needs nothing. */
const tryNext: Readonly<Partial<Record<Why, string>>> = {
  'timed-out':
    'The command left, but its effect was not reported in time. See what the device reports on the Rig, and its bytes on the Wire.',
  'refused-by-device': 'The device refused. Correct what its reason names, then press again.',
  'link-down': 'Test the connection on the Rig. A press is never sent later by itself.',
  'cut-off': 'The device may or may not have acted: look at it before pressing again.',
  'switched-off': 'Enable the device on the Rig.',
  missing: 'Open the control in the editor and choose its device and command again.',
  'bad-value': 'Open the control in the editor and correct the value that the reason names.',
  'not-kept': 'Try it again; where it fails again, look whether the desk can edit the show.',
  'not-allowed': 'Press it on a panel that has this page, or on the desk.',
  guarded: 'Confirm the press as the button asks: hold it until the bar is full, or press it twice.',
  dry: 'Set the aim to live to send it.',
  barred: 'A rule of the control bars it. The rule is among its lamps in the editor.',
  unanswered: 'Answer the question before its time is over.',
  'running-already':
    'Wait for the macro to end, or change in its settings what happens if it is started again while running.',
  'too-many': 'Commands arrive faster than the device takes them. Send fewer of them.',
};

/** What to do about a press that did not have its effect; `undefined` where it did, or is still under way. */
export function tryNextOf({ moments }: Explanation): string | undefined {
  const end = moments.findLast((moment) => moment.is === 'ended');
  return end && tryNext[end.why];
}

/** The account of a press in lines, in the order of time. */
export function explainLines(explanation: Explanation): ExplainLine[] {
  const { who, page, label, gesture, run } = explanation;
  const first: ExplainLine = {
    key: 'received',
    ms: 0,
    title: run === undefined ? `Received from ${who}` : 'Reached in a macro',
    detail: `${gestureWords[gesture] ?? 'Pressed'}: ${[page, label || 'no label'].filter(Boolean).join(' · ')}`,
    tone: 'plain',
  };
  const inOrder = reportsFirst(explanation.moments.map((moment, n) => ({ moment, n })));
  return [
    first,
    ...inOrder.flatMap(({ moment, n }) => {
      const line = lineOf(explanation, moment);
      return line ? [{ key: `${moment.is} ${n}`, ms: moment.ms, ...line }] : [];
    }),
  ];
}

/** A report reaches the lamps a moment before it is known whose effect it is: it is told before them all the same. */
function reportsFirst(moments: readonly { readonly moment: Moment; readonly n: number }[]): typeof moments {
  const ordered = [...moments];
  moments.forEach((reported, from) => {
    if (reported.moment.is !== 'reported') return;
    let to = from;
    for (let before = ordered[to - 1]; before?.moment.is === 'lamp'; before = ordered[to - 1]) {
      if (reported.moment.ms - before.moment.ms > 1) break;
      to -= 1;
    }
    if (to < from) ordered.splice(to, 0, ...ordered.splice(from, 1));
  });
  return ordered;
}

type Untimed = Omit<ExplainLine, 'key' | 'ms'>;

function lineOf({ sends, aim }: Explanation, moment: Moment): Untimed | undefined {
  const send = 'send' in moment ? sends[moment.send] : undefined;
  const tag = send?.device ?? '?';
  const says = send?.says ?? send?.command;
  switch (moment.is) {
    case 'asked':
      return plain('Question put on the panel');
    case 'answered':
      return plain('Question answered');
    case 'cleared': {
      const rules = moment.bars === 0 ? '' : moment.bars === 1 ? 'Not barred by its rule' : 'Not barred by its rules';
      const confirmed = moment.isConfirmed ? 'The press was confirmed' : '';
      return plain('Allowed', [`Aim ${aim}`, confirmed, rules].filter(Boolean).join(' · '));
    }
    case 'queued':
      return plain(`${tag}: waiting in line`, queueText(moment));
    case 'held':
      return plain(`${tag}: held for ${Math.round(moment.forMs)} ms`, moment.says);
    case 'left':
      return { ...plain(`${tag}: sent ${sizeText(moment.bytes)}`, says), bytes: moment.bytes };
    case 'device answered':
      return { ...plain(`${tag}: answered`), bytes: moment.bytes };
    case 'reported':
      return {
        title: `${tag}: reported the effect`,
        detail: moment.readings.map(({ key, value, says: text }) => text ?? `${key} ${String(value)}`).join(' · '),
        tone: 'plain',
      };
    case 'macro began':
      return plain(`Macro ${moment.macro} started`);
    case 'send ended':
      // What went well is told by the answer or the report; alone, only the end of the press.
      return tryNext[moment.why] === undefined
        ? undefined
        : { title: `${tag}: ${moment.outcome}`, ...(moment.reason ? { detail: moment.reason } : {}), tone: 'stop' };
    case 'lamp':
      return plain(moment.show === 'off' ? 'Lamp off' : `Lamp: ${moment.word || moment.show}`);
    case 'ended': {
      const { outcome, reason, why } = moment;
      const title = `${outcome[0]?.toUpperCase() ?? ''}${outcome.slice(1)}`;
      return { title, ...(reason ? { detail: reason } : {}), tone: tryNext[why] === undefined ? 'done' : 'stop' };
    }
  }
}

const plain = (title: string, detail?: string): Untimed => ({ title, ...(detail ? { detail } : {}), tone: 'plain' });

const sizeText = (hex: string): string => (hex.length === 2 ? '1 byte' : `${hex.length / 2} bytes`);

function queueText({ ahead, waiting, inFlight }: Extract<Moment, { is: 'queued' }>): string {
  if (waiting > 0) {
    const more = waiting > ahead.length ? ` and ${waiting - ahead.length} more` : '';
    return `Behind ${ahead.join(', ')}${more}`;
  }
  if (inFlight > 0)
    return `Until the device answers ${inFlight === 1 ? 'the message' : `${inFlight} messages`} before it`;
  return 'For the smallest pause between two messages to this device';
}
