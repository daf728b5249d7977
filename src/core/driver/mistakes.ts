import type { Problem } from '../result';
import { fromHex, toHex } from '../wire';
import { contractMistakes } from './check-contract';
import { literalPrefix } from './compile-reply';
import type { DriverDocument, DriverReply } from './schema';
import { checkValue } from './values';

/**
 * What in a document works but is surely not meant: something that is never set, never used or never fits. It is told while the document
 * is written, with its path.
 */
export function findMistakes(document: DriverDocument): Problem[] {
  const replies = allReplies(document);
  return [
    ...readingsNeverSet(document, replies),
    ...parametersNeverUsed(document),
    ...answersWithoutNumber(document, replies),
    ...answersThatNeverCome(document, replies),
    ...patternsThatNeverFit(document),
    ...startersOutOfRange(document),
    ...contractMistakes(document),
  ];
}

const allReplies = ({ replies, variants }: DriverDocument): readonly DriverReply[] => [
  ...replies,
  ...variants.flatMap((variant) => variant.replies ?? []),
];

function readingsNeverSet({ readings }: DriverDocument, replies: readonly DriverReply[]): Problem[] {
  const set = new Set(
    replies.flatMap((reply) => Object.keys(reply.set ?? {}).map((key) => key.replace(/\[[^\]]*\]/, '[]'))),
  );
  return Object.keys(readings)
    .filter((key) => readings[key]?.computed === undefined && !set.has(key))
    .map((key) => ({ path: `readings.${key}`, message: 'No reply sets this reading, so its value is never known.' }));
}

function parametersNeverUsed({ commands }: DriverDocument): Problem[] {
  return Object.entries(commands).flatMap(([id, { params, send, confirm, stop }]) => {
    const sent = JSON.stringify(send);
    const others = JSON.stringify([confirm ?? null, stop ?? null]);
    // Another parameter may be computed from it.
    const computed = Object.values(params).flatMap((each) => each.computed ?? []);
    const isUsed = (name: string) =>
      new RegExp(`\\{\\??${name}[:|}]`).test(sent) ||
      others.includes(`"${name}"`) ||
      computed.some((expression) => new RegExp(`\\b${name}\\b`).test(expression));
    return Object.keys(params)
      .filter((name) => !isUsed(name))
      .map((name) => ({
        path: `commands.${id}.params.${name}`,
        message: `This parameter is never sent. Write {${name}} in "send" where it belongs.`,
      }));
  });
}

/** Framings in which nothing but the document says which answer belongs to which request. */
const leavesMatching = ({ framing }: DriverDocument): boolean =>
  !['http', 'modbus', 'mqtt', 'sacn', 'visca', 'umd'].includes(framing.kind);

function answersWithoutNumber(document: DriverDocument, replies: readonly DriverReply[]): Problem[] {
  if (document.answers !== 'matched' || !leavesMatching(document)) return [];
  const problems: Problem[] = [];
  const hasNumber = replies.some(
    ({ match, take, ref }) => ref !== undefined || match?.includes('(?P<ref>') || take?.ref !== undefined,
  );
  if (!hasNumber) {
    const message = 'Answers are matched by their number, but no reply has a group "ref" that reads it.';
    problems.push({ path: 'answers', message });
  }
  for (const [id, { send, unanswered }] of Object.entries(document.commands)) {
    if (unanswered) continue;
    const asked = typeof send === 'object' && 'ask' in send ? document.questions[send.ask]?.send : send;
    if (JSON.stringify(asked ?? '').includes('{ref')) continue;
    const message = 'Answers are matched by their number: write {ref} where the device expects it.';
    problems.push({ path: `commands.${id}.send`, message });
  }
  return problems;
}

function answersThatNeverCome(document: DriverDocument, replies: readonly DriverReply[]): Problem[] {
  if (document.answers === 'none' || !leavesMatching(document)) return [];
  if (replies.some(({ accepts }) => accepts)) return [];
  const message =
    'Every command waits for an answer, but no reply has "accepts". For a device that speaks only when it refuses, "answers" is "none".';
  return [{ path: 'answers', message }];
}

function patternsThatNeverFit(document: DriverDocument): Problem[] {
  return document.replies.flatMap(({ match }, n) => {
    const why = typeof match === 'string' ? whyNever(match, document) : undefined;
    return why === undefined ? [] : [{ path: `replies.${n}.match`, message: why }];
  });
}

/** Why a pattern fits nothing that this framing gives; `undefined` where it may. */
function whyNever(pattern: string, { framing }: DriverDocument): string | undefined {
  const begins = literalPrefix(pattern);
  switch (framing.kind) {
    case 'lines':
      return /\\[rn]/.test(pattern) ? 'A line is read without its ending, so the pattern never fits.' : undefined;
    case 'osc':
      return begins !== '' && !begins.startsWith('/')
        ? `An OSC address begins with a slash, and not with “${begins}”.`
        : undefined;
    case 'modbus':
      return begins !== '' && !/^(coil|input|holding|register)( |$)/.test(begins)
        ? 'A Modbus value is read as a line: “coil 3 1”, “input 0 0”, “holding 10 512”, “register 4 7”.'
        : undefined;
    case 'terminated':
    case 'fixed':
    case 'prefixed': {
      const isText = 'as' in framing && framing.as === 'text';
      if (isText) return undefined;
      if (!/^[0-9A-F]*$/.test(begins)) {
        return `Frames of bytes are matched as uppercase hexadecimal digits, and “${begins}” is not one.`;
      }
      const start = startOf(framing.start);
      const common = Math.min(start.length, begins.length);
      return start.slice(0, common) === begins.slice(0, common)
        ? undefined
        : `Every frame begins with ${start}, and not with ${begins}.`;
    }
    default:
      return undefined;
  }
}

function startOf(start: number | string | undefined): string {
  if (start === undefined) return '';
  if (typeof start === 'number') return toHex(Uint8Array.of(start));
  const bytes = fromHex(start);
  return bytes.ok ? toHex(bytes.value) : '';
}

function startersOutOfRange({ starters, commands }: DriverDocument): Problem[] {
  return starters.flatMap(({ command, params }, n) =>
    Object.entries(params).flatMap(([name, value]): Problem[] => {
      const param = commands[command ?? '']?.params[name];
      if (!param || typeof value === 'object' || hasOptionBounds(param.value)) return [];
      const checked = checkValue(param.value, value);
      return checked.ok ? [] : [{ path: `starters.${n}.params.${name}`, message: `${param.title} ${checked.error}.` }];
    }),
  );
}

/** A range that an option of the device sets is known only there. */
const hasOptionBounds = (shape: object): boolean => Object.values(shape).some((bound) => typeof bound === 'object');
