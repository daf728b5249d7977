/** The words for the state of a device's link, and why it is not `up`. */

export type LinkWord =
  | 'off'
  | 'calling'
  | 'signing in'
  | 'syncing'
  | 'up'
  | 'silent'
  | 'down'
  | 'locked out'
  | 'occupied'
  | 'one-way'
  /** Something could come back, but nothing is asked and nothing has been heard. */
  | 'not checked';

export type DownCause =
  | 'refused'
  | 'no-answer'
  | 'unreachable'
  | 'name-not-found'
  | 'closed'
  | 'reset'
  | 'wrong-greeting'
  | 'no-greeting'
  | 'no-sync'
  | 'silence'
  | 'not-reading'
  | 'gateway'
  | 'behind-gateway'
  | 'out-of-step'
  | 'port-taken'
  | 'certificate'
  | 'serial-missing'
  | 'serial-taken'
  | 'serial-denied'
  | 'serial-unplugged'
  | 'serial-silent'
  | 'midi-missing'
  | 'midi-none'
  | 'no-driver'
  | 'bad-driver'
  | 'other';

/** What each cause means to a person and what to try next. */
export const downCauses: Readonly<Record<DownCause, { readonly title: string; readonly tryNext: string }>> = {
  refused: {
    title: 'port refused',
    tryNext: 'The computer is there, but nothing listens on this port. Is the service switched on? Is the port right?',
  },
  'no-answer': {
    title: 'no answer',
    tryNext: 'Nothing came back from this address. Is the device on, and on this network? Is the address right?',
  },
  unreachable: {
    title: 'no route',
    tryNext: 'This computer has no way to that network. Check its own address and subnet, and the VLAN of the port.',
  },
  'name-not-found': {
    title: 'name not found',
    tryNext: 'The host name could not be looked up. Check its spelling, or type the IP address.',
  },
  closed: { title: 'closed by the device', tryNext: 'The device ended the connection. Is it restarting?' },
  reset: { title: 'connection reset', tryNext: 'The connection broke. Was the device restarted or a cable pulled?' },
  'wrong-greeting': {
    title: 'something else answers',
    tryNext: 'The greeting is not that of this kind of device. Are the address, the port and the driver right?',
  },
  'no-greeting': {
    title: 'no greeting',
    tryNext: 'The port is open, but the device does not greet. Is the port right? Is the device still starting?',
  },
  'no-sync': {
    title: 'state not reported',
    tryNext: 'The device greeted but did not report its state. Is its firmware one that the driver knows?',
  },
  silence: { title: 'fell silent', tryNext: 'The device stopped answering. Is it busy or has the network dropped?' },
  'not-reading': {
    title: 'does not take bytes',
    tryNext: 'The device no longer reads what is sent to it. It may hang; restart it.',
  },
  gateway: {
    title: 'gateway not reached',
    tryNext: 'The device is reached through a gateway, and that does not answer. See the gateway first.',
  },
  'behind-gateway': {
    title: 'silent behind its gateway',
    tryNext:
      'The gateway passes bytes on, but the device behind it does not answer. Is it on, is its cable in, are speed and address of the serial port right?',
  },
  'out-of-step': {
    title: 'out of step',
    tryNext: 'Device and engine lost count of each other’s messages; the engine reconnects automatically.',
  },
  'port-taken': {
    title: 'local port taken',
    tryNext: 'Another program on this computer uses the port on which the replies would come. Stop that program.',
  },
  certificate: {
    title: 'certificate not trusted',
    tryNext:
      'The certificate is self-signed, signed by an authority that this computer does not trust, issued for another name, or expired. Renew it, or turn off “Check the certificate” in the device’s settings.',
  },
  'serial-missing': {
    title: 'no such serial port',
    tryNext: 'This computer has no serial port of that name. Is the adapter plugged in? It may have another name now.',
  },
  'serial-taken': {
    title: 'serial port in use',
    tryNext: 'Another program on this computer, or another device of this rig, has opened this serial port.',
  },
  'serial-denied': {
    title: 'serial port not allowed',
    tryNext: 'The account that runs this program may not open serial ports. On Linux, add it to the group “dialout”.',
  },
  'serial-unplugged': {
    title: 'serial port unplugged',
    tryNext: 'The adapter was unplugged. Plug it in again; the connection comes back automatically.',
  },
  'serial-silent': {
    title: 'no answer on the line',
    tryNext:
      'The serial port is open, but nothing comes back. Is the device on, is the cable the right one, and do speed and format agree at both ends?',
  },
  'midi-missing': {
    title: 'no such MIDI port',
    tryNext: 'This computer has no MIDI port of that name. Is the device on and plugged in?',
  },
  'midi-none': {
    title: 'no MIDI here',
    tryNext:
      'This computer does not give the program access to MIDI. On Linux, ALSA and its sequencer (snd-seq) are needed.',
  },
  'bad-driver': {
    title: 'driver does not fit',
    tryNext: 'The driver, with this device’s options and own commands, has a mistake. See Drivers.',
  },
  'no-driver': { title: 'driver missing', tryNext: 'This show names a driver that is not installed here.' },
  other: { title: 'failed', tryNext: 'See the wire for what was sent and received.' },
};

/** The state of a link as it is shown and recorded. */
export interface Link {
  readonly word: LinkWord;
  readonly cause?: DownCause;
  /** More about the cause, for people. */
  readonly detail?: string;
}

/** True for the link states in which a press is accepted (the others end it as `lost`). */
export function acceptsPresses(word: LinkWord): boolean {
  return word === 'up' || word === 'silent' || word === 'one-way' || word === 'not checked';
}

/** True when nothing is wrong with the link, as far as can be told. */
export const isWell = (word: LinkWord): boolean => acceptsPresses(word) && word !== 'silent';

/** The cause behind an operating-system error code. Decided by code, never by message text. */
export function causeOfSocketError(code: string | undefined): DownCause {
  switch (code) {
    case 'ECONNREFUSED':
      return 'refused';
    case 'EADDRINUSE':
      return 'port-taken';
    case 'ETIMEDOUT':
      return 'no-answer';
    case 'EHOSTUNREACH':
    case 'EHOSTDOWN':
      return 'no-answer';
    case 'ENETUNREACH':
    case 'EADDRNOTAVAIL':
      return 'unreachable';
    case 'ENOTFOUND':
    case 'EAI_AGAIN':
      return 'name-not-found';
    case 'ECONNRESET':
    case 'EPIPE':
      return 'reset';
    case 'DEPTH_ZERO_SELF_SIGNED_CERT':
    case 'SELF_SIGNED_CERT_IN_CHAIN':
    case 'UNABLE_TO_VERIFY_LEAF_SIGNATURE':
    case 'UNABLE_TO_GET_ISSUER_CERT_LOCALLY':
    case 'ERR_TLS_CERT_ALTNAME_INVALID':
    case 'CERT_HAS_EXPIRED':
    case 'CERT_NOT_YET_VALID':
      return 'certificate';
    default:
      return 'other';
  }
}

/**
 * Why a device cannot be spoken to, in a sentence.
 *
 * @param last the last link that was not a passing one: between two tries a link is `calling`, and why the last one failed is what helps
 */
export function whyUnreachable(now: Link, last: Link | undefined): string {
  const { word, cause, detail } = last ?? now;
  if (word === 'down' && cause) return `The device is down (${downCauses[cause].title}). ${downCauses[cause].tryNext}`;
  if (word === 'locked out') return 'The device does not accept the sign-in. Check name and password, then call again.';
  if (word === 'occupied') return `Another controller holds the device.${detail ? ` ${detail}` : ''}`;
  return `The device's link is ${now.word}.`;
}
