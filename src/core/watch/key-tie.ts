import { memberKey, type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import { readingsOfCondition, type KeyWhen, type ReadingRef, type WatchData, type WatchWhen } from '../show';

/**
 * Graphics that come with a key of a switcher. Keys are switched and reported in the words of the contract of the role `switcher`, so that this
 * works with every driver of it.
 */

export const keyCommand = 'key';
const keyOn = 'key[].on';
const keySource = 'key[].source';

/** The reading that says whether the key of a watch is on. */
export const keyReading = ({ switcher, key }: KeyWhen): ReadingRef => ({
  device: switcher,
  key: memberKey(keyOn, key),
});

/** The reading that says what it shows. */
const sourceReading = ({ switcher, key }: KeyWhen): ReadingRef => ({
  device: switcher,
  key: memberKey(keySource, key),
});

/** True for a device whose keys can be switched and tell whether they are on. */
export const hasKeys = (document: DriverDocument | undefined): boolean =>
  document?.commands[keyCommand] !== undefined && document.readings[keyOn]?.index !== undefined;

/** What a command does with a key. */
interface KeyOrder {
  readonly key: number;
  readonly on: boolean;
}

/** `undefined` for a command that switches no key. */
export function keyOrderOf(command: string, params: Readonly<Record<string, Scalar>>): KeyOrder | undefined {
  const { key, on } = params;
  return command === keyCommand && typeof key === 'number' && typeof on === 'boolean' ? { key, on } : undefined;
}

/** True when the key shows what the watch is about: any input, or its own; what is not known counts as another one. */
export const showsInput = (when: KeyWhen, fresh: (ref: ReadingRef) => Scalar | undefined): boolean =>
  when.input === undefined || fresh(sourceReading(when)) === when.input;

/** Every command that a watch may send itself, what takes graphics out again included. */
export const sendsOfWatch = ({ sends, when }: Pick<WatchData, 'sends' | 'when'>): WatchData['sends'] => [
  ...sends,
  ...(when.is === 'key' ? (when.out?.sends ?? []) : []),
];

/** The readings that a watch waits for. */
export function readingsOfWhen(when: WatchWhen): readonly ReadingRef[] {
  switch (when.is) {
    case 'true':
      return readingsOfCondition(when.condition);
    case 'change':
      return [when.reading];
    case 'key':
      return [keyReading(when)];
    case 'message':
    case 'time':
      return [];
  }
}
