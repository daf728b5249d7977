import type { DownCause } from '../session';
import type { SerialLine, SerialPortInfo } from './findings';
import { failed, passed, type Verdict } from './verdict';

/** What a connection test says of a serial port, where there is no network. */

interface SerialPortFinding {
  readonly path: string;
  readonly ports: readonly SerialPortInfo[];
  /** Tags of other devices at the same port. */
  readonly sharedWith: readonly string[];
}

export function judgeSerialPort({ path, ports, sharedWith }: SerialPortFinding): Verdict {
  const there =
    ports.length === 0 ? 'This computer has none.' : `There are: ${ports.map(({ title }) => title).join(', ')}.`;
  if (path === '') return failed('no-address', `No serial port is chosen. ${there}`);
  if (sharedWith.length > 0)
    return failed('used-twice', `${sharedWith.join(' and ')} ${sharedWith.length > 1 ? 'have' : 'has'} it too.`);
  // A port that the system does not list may still open: a pseudo terminal, a link to one.
  return passed(ports.some((each) => each.path === path) ? `${path} is there.` : `${path} is not listed. ${there}`);
}

/** Why a serial port does not open; `undefined` where it does. */
export function judgeSerialOpening(cause: DownCause | undefined, path: string): Verdict | undefined {
  switch (cause) {
    case 'serial-missing':
      return failed('serial-missing', `There is no serial port ${path}.`);
    case 'serial-taken':
      return failed('serial-taken', `${path} is open already.`);
    case 'serial-denied':
      return failed('serial-denied', `The system does not allow ${path} to be opened.`);
    case 'serial-unplugged':
      return failed('serial-missing', `${path} was unplugged during the test.`);
    default:
      return undefined;
  }
}

/** What is at the other end of a serial port that is open; `undefined` where something else than silence came. */
export function judgeSerialLine(cause: DownCause | undefined, { path, settings }: SerialLine): Verdict | undefined {
  const isSilent = cause !== undefined && ['serial-silent', 'silence', 'no-greeting', 'no-sync'].includes(cause);
  return isSilent ? failed('serial-silent', `${path} is open at ${settings}, and nothing came back.`) : undefined;
}
