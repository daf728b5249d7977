import { indexesOf, memberKey, type DriverDocument } from '../driver';
import type { Reading } from '../reading';
import { resolveArgument, sendsOfControl, type ControlRecord, type ReadingRef } from '../show';
import type { Sources } from './control-problems';

interface SourcesNow extends Pick<Sources, 'device' | 'document'> {
  readonly readingNow: (ref: ReadingRef) => Reading | undefined;
}

/**
 * What of a control would work, but show nothing as the devices are now: a sentence for each. Silent wherever a reading that
 * would decide is not fresh.
 */
export function warningsOfControl(
  { data }: ControlRecord,
  { device: find, document, readingNow }: SourcesNow,
): string[] {
  const sends = sendsOfControl(data);
  const found = sends.flatMap(({ device: id, command: name, params }) => {
    const device = find(id);
    const known = device && document(device);
    const command = known?.commands[name];
    if (!known || !command) return [];
    const valueOf = (param: string) => {
      const argument = params[param];
      return argument === undefined ? command.params[param]?.default : resolveArgument(argument, data.values);
    };
    return (
      (command.showsNothing ?? [])
        .filter(({ when }) => Object.entries(when).every(([param, value]) => valueOf(param) === value))
        // What the control itself brings about first is not held against it.
        .filter(({ reading }) => !sends.some((other) => other.device === id && changes(known, other.command, reading)))
        .filter(({ reading, is }) =>
          membersOf(known, reading).every((key) => {
            const now = readingNow({ device: id, key });
            return now?.freshness === 'fresh' && now.value === is;
          }),
        )
        .map(({ says }) => `${device.data.tag} ${command.title} would show nothing now. ${says}`)
    );
  });
  return [...new Set(found)];
}

/** The devices whose readings can tell that a control would show nothing; none for most controls. */
export const devicesThatTell = (
  { data }: ControlRecord,
  documentOf: (device: string) => DriverDocument | undefined,
): string[] =>
  sendsOfControl(data).flatMap(({ device, command }) =>
    (documentOf(device)?.commands[command]?.showsNothing ?? []).length > 0 ? [device] : [],
  );

/** True when a command is confirmed by this reading: it is what the command is about. */
function changes({ commands }: DriverDocument, command: string, reading: string): boolean {
  const confirm = commands[command]?.confirm;
  return confirm?.by === 'readings' && confirm.all.some((each) => each.reading === reading);
}

function membersOf(document: DriverDocument, reading: string): string[] {
  const range = document.readings[reading]?.index;
  return range ? indexesOf(range).map((index) => memberKey(reading, index)) : [reading];
}
