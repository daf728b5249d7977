import { answerLine, type InletAnswer } from '../../core/inlet';
import type { OscArgument, OscMessage } from '../../core/wire/osc';
import type { News } from './followers';
import type { FoundSubject } from './subjects';

/** News of what somebody follows, as a line of text: `now SW1 program 3`, `now lamp Race/Cut onAir AIR`. */
export function newsLine({ name }: FoundSubject, now: News): string {
  switch (now.is) {
    case 'value':
      return `now ${name} ${String(now.value)}${now.isFresh ? '' : ' (stale)'}`;
    case 'lamp':
      return `now ${name} ${now.show} ${now.word}`.trim();
    case 'error':
      return `now ${name} unknown`;
  }
}

/** The same as a message of Open Sound Control 1.0: only its four basic types are used; what is not known comes without an argument. */
export function newsOsc({ address }: FoundSubject, now: News): OscMessage {
  return { kind: 'message', address, args: argumentsOf(now) };
}

/** An answer as a message: of a list each item is an argument. */
export const answerOsc = (answer: InletAnswer): OscMessage => {
  const texts = answer.is === 'list' ? ['list', ...answer.items] : [answerLine(answer)];
  return { kind: 'message', address: '/answer', args: texts.map((value) => ({ type: 's', value })) };
};

function argumentsOf(now: News): OscArgument[] {
  switch (now.is) {
    case 'lamp':
      return [
        { type: 's', value: now.show },
        { type: 's', value: now.word },
      ];
    case 'error':
      return [];
    case 'value': {
      const { value } = now;
      if (typeof value === 'string') return [{ type: 's', value }];
      if (typeof value === 'boolean') return [{ type: 'i', value: value ? 1 : 0 }];
      return [{ type: Number.isInteger(value) && Math.abs(value) < 2 ** 31 ? 'i' : 'f', value }];
    }
  }
}
