import { commandSentence, memberKey, sentenceText } from '../../core/driver';
import type { ReadingStore } from './readings';
import type { PreparedSend } from './session-types';

/** A command in words, with the names that its device lists now. */
export function sendText(
  { command, given }: Pick<PreparedSend, 'command' | 'given'>,
  device: string,
  readings: ReadingStore,
): string {
  // Only the names that it mentions: a copy of all readings of the device would cost more than the sentence.
  const names = Object.entries(command.params).flatMap(([param, { listFrom }]) => {
    const value = given[param];
    if (listFrom === undefined || typeof value !== 'number') return [];
    const key = memberKey(listFrom, value);
    return [[key, { value: readings.get({ device, key })?.value }] as const];
  });
  return sentenceText(commandSentence(command, given, Object.fromEntries(names)));
}
