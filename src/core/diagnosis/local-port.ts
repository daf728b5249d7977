import { midiPortName } from '../net';
import type { DownCause } from '../session';
import type { SerialLine, LocalPortInfo } from './findings';
import { failed, passed, type Verdict } from './verdict';

/** The connection test's judgements about ports of this computer: serial lines and MIDI. */

interface LocalPortFinding {
  readonly kind: 'serial' | 'MIDI';
  readonly path: string;
  readonly ports: readonly LocalPortInfo[];
  /** Tags of other devices at the same port. */
  readonly sharedWith: readonly string[];
}

export function judgeLocalPort({ kind, path, ports, sharedWith }: LocalPortFinding): Verdict {
  const there =
    ports.length === 0 ? 'This computer has none.' : `There are: ${ports.map(({ title }) => title).join(', ')}.`;
  if (path === '') return failed('no-address', `No ${kind} port is chosen. ${there}`);
  if (sharedWith.length > 0)
    return failed('used-twice', `${sharedWith.join(' and ')} ${sharedWith.length > 1 ? 'have' : 'has'} it too.`);
  // An unlisted port may still open: a pseudo terminal, or a symbolic link.
  return passed(ports.some((each) => each.path === path) ? `${path} is there.` : `${path} is not listed. ${there}`);
}

/** Judges why a port did not open. Returns `undefined` if it opened. */
export function judgeOpening(cause: DownCause | undefined, path: string): Verdict | undefined {
  switch (cause) {
    case 'serial-missing':
      return failed('serial-missing', `There is no serial port ${path}.`);
    case 'serial-taken':
      return failed('serial-taken', `${path} is open already.`);
    case 'serial-denied':
      return failed('serial-denied', `The system does not allow ${path} to be opened.`);
    case 'midi-missing':
      return failed('midi-missing', `There is no MIDI port ${midiPortName(path)}.`);
    case 'midi-none':
      return failed('midi-none', 'No MIDI port could be opened.');
    case 'serial-unplugged':
      return failed('serial-missing', `${path} was unplugged during the test.`);
    default:
      return undefined;
  }
}

/** Judges silence on an open serial line. Returns `undefined` if anything arrived. */
export function judgeSerialLine(cause: DownCause | undefined, { path, settings }: SerialLine): Verdict | undefined {
  const isSilent = cause !== undefined && ['serial-silent', 'silence', 'no-greeting', 'no-sync'].includes(cause);
  return isSilent ? failed('serial-silent', `${path} is open at ${settings}, and nothing came back.`) : undefined;
}
