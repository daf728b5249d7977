import {
  contains,
  familyOf,
  isBroadcastAddress,
  isLinkLocal,
  isLoopbackAddress,
  isNetworkAddress,
  isMulticast,
  isOneComputer,
  sharedBits,
  subnetOf,
  subnetText,
} from '../net';
import type {
  AddressFinding,
  ComputerFinding,
  IdentityFinding,
  Network,
  NetworkInterface,
  PortFinding,
  ProtocolFinding,
  ReportsFinding,
  RoundTripFinding,
  RouteFinding,
  SharedAddressFinding,
  SignInFinding,
} from './findings';
import { looksLike, serviceOf } from './looks-like';
import { judgeSerialLine } from './local-port';
import { troubles, type Trouble } from './troubles';
import { doubtful, failed, notPossible, passed, type Mend, type Verdict } from './verdict';

/** The stages of a connection test, in the order in which they are gone through. */
export const stageNames = [
  'address',
  'route',
  'computer',
  'port',
  'protocol',
  'signIn',
  'identity',
  'roundTrip',
  'reports',
] as const;
export type StageName = (typeof stageNames)[number];

export const stageTitles: Readonly<Record<StageName, string>> = {
  address: 'Address',
  route: 'Route',
  computer: 'Computer',
  port: 'Port',
  protocol: 'Protocol',
  signIn: 'Sign-in',
  identity: 'Identity',
  roundTrip: 'Round trip',
  reports: 'Reports',
};

const subnetOfInterface = ({ address, prefix }: NetworkInterface) => subnetOf(address, prefix);
const outward = ({ interfaces }: Network) => interfaces.filter(({ internal }) => !internal);

/** The interface of this computer on whose subnet an address lies. */
function onSubnetOf(network: Network, address: string): NetworkInterface | undefined {
  return network.interfaces.find((each) => {
    const subnet = subnetOfInterface(each);
    return subnet !== undefined && contains(subnet, address);
  });
}

export function judgeAddress({ host, addresses, error, network, sharedWith }: AddressFinding): Verdict {
  if (host === '') return failed('no-address', 'The address field is empty.', [{ do: 'find' }]);
  const [address] = addresses;
  if (error === 'not-found' || address === undefined) {
    const seen =
      error === 'timed-out' ? `No name server answered about “${host}”.` : `“${host}” could not be looked up.`;
    return failed('name-unknown', seen);
  }
  if (!isOneComputer(address)) return failed('bad-address', `${address} stands for many computers or for none.`);
  for (const each of network.interfaces) {
    const subnet = subnetOfInterface(each);
    if (!subnet || !contains(subnet, address) || each.internal) continue;
    if (isNetworkAddress(subnet, address))
      return failed('network-address', `${address} is the first address of ${subnetText(subnet)}, on ${each.name}.`);
    if (isBroadcastAddress(subnet, address))
      return failed('broadcast-address', `${address} is the last address of ${subnetText(subnet)}, on ${each.name}.`);
  }
  if (sharedWith.length > 0) {
    return failed('used-twice', `${sharedWith.join(' and ')} ${sharedWith.length > 1 ? 'have' : 'has'} it too.`);
  }
  return passed(familyOf(host) ? `${address} is well formed and used once.` : `“${host}” is ${addresses.join(', ')}.`);
}

/** The address to which something is sent for many: nobody there can be asked whether it arrives. */
export function judgeSharedAddress({ address, delivery, sharedWith }: SharedAddressFinding): Verdict {
  if (address === '') return failed('name-unknown', 'The address could not be looked up.');
  const isGroup = isMulticast(address);
  if (delivery === 'multicast' && !isGroup)
    return failed('bad-address', `${address} is not a multicast group: those begin with 224 to 239.`);
  if (delivery !== 'multicast' && isGroup) return failed('bad-address', `${address} is a multicast group.`);
  if (sharedWith.length > 0)
    return failed('used-twice', `${sharedWith.join(' and ')} ${sharedWith.length > 1 ? 'send' : 'sends'} there too.`);
  return passed(
    isGroup ? `It is sent to the multicast group ${address}.` : `It is sent to everybody that ${address} reaches.`,
  );
}

export function judgeRoute({ address, network, from, router }: RouteFinding): Verdict {
  if (isLoopbackAddress(address)) return passed('It is this computer itself.');
  const near = onSubnetOf(network, address);
  if (near) {
    const subnet = subnetOfInterface(near);
    const name = subnet ? subnetText(subnet) : '';
    return passed(`On this computer’s subnet ${name}, by ${near.name} (${near.address}).`);
  }
  const own = outward(network).filter((each) => familyOf(each.address) === familyOf(address));
  const list = own.map((each) => `${each.address}/${each.prefix} on ${each.name}`).join(', ');
  if (own.length === 0)
    return failed('no-network', `This computer has no address beside ${list || 'its own loopback'}.`);
  const gateways = (network.gateways ?? []).filter((each) => familyOf(each.address) === familyOf(address));
  const reachable = gateways.filter((each) => onSubnetOf(network, each.address));
  if (from !== undefined && (reachable.length > 0 || network.gateways === undefined)) {
    const over = reachable.map((each) => each.address).join(', ');
    const away = `On another subnet than this computer (${list})`;
    if (over === '') return passed(`${away}.`);
    if (router === 'silent')
      return failed('router-silent', `${away}; the way leads over the router ${over}, which does not answer.`);
    const answers = router === 'answered' ? ', which answers' : '';
    return passed(`${away}; the way leads over the router ${over}${answers}.`);
  }
  const stray = gateways.find((each) => !onSubnetOf(network, each.address));
  if (stray)
    return failed('gateway-outside', `The gateway ${stray.address} is on no subnet of this computer (${list}).`);
  const close = own.some((each) => sharedBits(each.address, address) >= (familyOf(address) === 4 ? 16 : 48));
  if (close) return failed('neighbour-subnet', `This computer has ${list}; ${address} is just outside.`);
  const seen = isLinkLocal(address)
    ? `${address} is a link-local address, which a device takes when no server assigns it one; this computer has ${list}.`
    : `This computer has ${list}, and no gateway leads to ${address}.`;
  return failed('no-route', seen);
}

/** Returns the router that leads to an address, or `undefined` for an address on an own subnet or when no router is known. */
export function routerTo(address: string, network: Network): string | undefined {
  if (isLoopbackAddress(address) || onSubnetOf(network, address)) return undefined;
  const routers = (network.gateways ?? []).filter((each) => familyOf(each.address) === familyOf(address));
  return routers.find((each) => onSubnetOf(network, each.address))?.address;
}

export function judgeComputer({ address, network, kind, ping, neighbour, mac, port }: ComputerFinding): Verdict {
  if (isLoopbackAddress(address)) return passed('It is this computer itself.');
  const signs = [
    ping === 'answered' && 'it answers a ping',
    port === 'open' && 'its port opens',
    port === 'closed-at-once' && 'its port opens',
    port === 'refused' && 'it refuses the port',
    neighbour === 'known' && `its network card answers (${mac ?? 'unknown'})`,
  ].filter((sign) => sign !== false);
  if (signs.length > 0) return passed(`It is there: ${signs.join(', ')}.`);
  const near = onSubnetOf(network, address);
  const pinged = ping === 'not-possible' ? '' : ' No answer to a ping.';
  if (near && !near.internal && neighbour !== 'not-told') {
    return failed('nobody-there', `No network card on ${near.name} says that it has ${address}.${pinged}`, [
      { do: 'find' },
    ]);
  }
  if (kind === 'udp') {
    // A device may answer its own protocol and nothing else.
    return notPossible(
      `Nothing came back from ${address} yet.${pinged} Whether it is there, only its protocol can tell.`,
    );
  }
  return failed('computer-silent', `Nothing came back from ${address}.${pinged}`, [{ do: 'find' }]);
}

export function judgePort({ kind, port, answer, answersAt, openPorts, otherDrivers }: PortFinding): Verdict {
  switch (answer) {
    case 'open':
    case 'closed-at-once':
      return passed(`Port ${port} is open.`);
    case 'refused': {
      if (otherDrivers.length > 0) return answeredByOther(otherDrivers);
      const found = answersAt.map((each): Mend => ({ do: 'port', port: each }));
      const others = openPorts.filter((each) => !answersAt.includes(each));
      const seen = [
        `Port ${port} is refused.`,
        answersAt.length > 0 && `This kind of device answers at port ${answersAt.join(' and ')} of the same computer.`,
        answersAt.length === 0 && others.length > 0 && `Open there: ${others.join(', ')}.`,
      ];
      return failed('port-refused', seen.filter(Boolean).join(' '), found);
    }
    case 'silent':
      if (kind === 'udp')
        return notPossible('With datagrams an open port and a filtered one look alike; it was not refused.');
      return failed('port-silent', `Port ${port} neither opened nor refused.`);
    case 'unreachable':
      return failed('port-silent', `Something on the way says that port ${port} cannot be reached.`);
  }
}

/** The rig has a live connection to the same place, and nobody has asked to interrupt it. */
export const heldHere = (): Verdict =>
  failed('held-here', 'Not tested: the rig has a live connection to this address and port.', [{ do: 'interrupt' }]);

export function judgeProtocol(finding: ProtocolFinding): Verdict {
  const { link, cause, understood, heard, greeting, otherDrivers, upForMs, through, computerSeen, serial, unfit } =
    finding;
  if (link.word === 'one-way') return notPossible('Bytes only leave; nothing can come back.');
  if (link.word === 'not checked')
    return notPossible('The program asks this device nothing, so it cannot tell whether the device answers.');
  if (upForMs !== undefined) return passed(`The connection of the rig is up, for ${Math.round(upForMs / 1000)} s now.`);
  if (link.word === 'occupied' || link.word === 'locked out') return passed('It speaks the driver’s protocol.');
  if (cause === 'wrong-greeting' && understood)
    return failed('wrong-model', link.detail ?? '', otherMends(otherDrivers));
  if (understood) return passed('It speaks the driver’s protocol.');
  if (cause === 'certificate') return failed('certificate', certificateText(link.detail));
  if (cause === 'port-taken') return failed('local-port-taken', 'The port for the replies is in use on this computer.');
  const line = serial && judgeSerialLine(heard.length > 0 ? undefined : cause, serial);
  if (line) return line;
  if (cause === 'gateway') return failed('gateway-fails', 'The gateway could not be reached.');
  if (heard.length > 0) {
    const text = String.fromCharCode(...heard.subarray(0, 80));
    const [family = ''] = greeting?.split(' ') ?? [];
    if (family.length >= 3 && text.startsWith(family)) {
      return failed('wrong-model', `It greets with “${text.split(/[\r\n]/)[0] ?? ''}”.`, otherMends(otherDrivers));
    }
    if (otherDrivers.length > 0) return answeredByOther(otherDrivers);
    if (unfit !== undefined && serviceOf(heard) === undefined) return failed('no-reply-fits', `It said “${unfit}”.`);
    const like = looksLike(heard);
    return like ? failed('other-protocol', `It looks like ${like}.`) : failed('garbage', `It said ${hexOf(heard)}.`);
  }
  if (otherDrivers.length > 0) return answeredByOther(otherDrivers);
  if (through) return failed('behind-gateway', 'The gateway took the question, and no answer came.');
  if (cause === 'closed' || cause === 'reset')
    return failed('hangs-up', 'It ended the connection before it said anything.');
  if (!computerSeen) return failed('computer-silent', 'Nothing at all came back from its address.', [{ do: 'find' }]);
  return failed('mute', 'It took what was sent, and nothing came back.');
}

const certificateText = (code: string | undefined): string => {
  const known = code === undefined ? undefined : certificateCodes[code];
  return known === undefined ? `Its certificate does not fit (${code ?? 'no reason given'}).` : known;
};

/** By the codes of OpenSSL and Node.js. */
const certificateCodes: Readonly<Record<string, string>> = {
  DEPTH_ZERO_SELF_SIGNED_CERT: 'Its certificate is self-signed.',
  SELF_SIGNED_CERT_IN_CHAIN: 'Its certificate is signed by an authority that this computer does not trust.',
  UNABLE_TO_VERIFY_LEAF_SIGNATURE: 'Its certificate is signed by an authority that this computer does not know.',
  UNABLE_TO_GET_ISSUER_CERT_LOCALLY: 'Its certificate is signed by an authority that this computer does not know.',
  ERR_TLS_CERT_ALTNAME_INVALID: 'Its certificate is for another name or address.',
  CERT_HAS_EXPIRED: 'Its certificate has expired.',
  CERT_NOT_YET_VALID: 'Its certificate is not valid yet. Is the clock right, here and there?',
};

const otherMends = (drivers: ProtocolFinding['otherDrivers']): Mend[] =>
  drivers.map(({ id, title }) => ({ do: 'driver', driver: id, title }));

const answeredByOther = (drivers: ProtocolFinding['otherDrivers']): Verdict =>
  failed('other-setting', `It answers as “${drivers.map(({ title }) => title).join('” and “')}”.`, otherMends(drivers));

const hexOf = (bytes: Uint8Array): string =>
  Array.from(bytes.subarray(0, 16), (byte) => byte.toString(16).padStart(2, '0').toUpperCase()).join(' ');

export function judgeSignIn({ link, signsIn, hasPassword, unfit }: SignInFinding): Verdict {
  const said = link.detail ? ` ${link.detail}` : '';
  if (link.word === 'locked out') {
    return hasPassword
      ? failed('wrong-password', `It did not accept the sign-in.${said}`)
      : failed('no-password', `It wants a sign-in.${said}`);
  }
  if (link.word === 'occupied') return failed('occupied', `It reports that another controller is connected.${said}`);
  if (link.word === 'one-way') return notPossible('Bytes only leave; nothing can come back.');
  if (link.word === 'not checked')
    return notPossible('The program asks this device nothing, so it cannot tell whether the device answers.');
  if (link.word === 'down' && unfit !== undefined)
    return failed('no-reply-fits', `It did not report its state, but said “${unfit}”.`);
  if (link.word === 'down') return failed('no-state', `It sent its greeting but did not report its state.${said}`);
  return passed(signsIn ? 'Name and password are accepted.' : 'This kind of device needs no sign-in.');
}

export function judgeIdentity(finding: IdentityFinding): Verdict {
  const { model, firmware, knownModels, knownFirmwares, modelKnown, firmwareKnown, options } = finding;
  const mends: Mend[] = [
    ...finding.driversForModel.map(({ id, title }): Mend => ({ do: 'driver', driver: id, title })),
    ...options.map(({ name, title, says }): Mend => ({ do: 'option', name, title, value: says })),
  ];
  const is = [model && `model ${model}`, firmware && `firmware ${firmware}`].filter(Boolean).join(', ');
  if (finding.helpersMissing.length > 0) {
    return failed('helper-missing', `${finding.helpersMissing.join(' and ')} did not answer.`);
  }
  if (!modelKnown) {
    return doubtful('wrong-model', `It says ${is}; the driver is for ${(knownModels ?? []).join(', ')}.`, mends);
  }
  if (!firmwareKnown) {
    return doubtful(
      'firmware-unknown',
      `It says ${is}; the driver was tried with ${(knownFirmwares ?? []).join(', ')}.`,
    );
  }
  if (options.length > 0) {
    const says = options.map((each) => `${each.title}: ${each.says}`).join(', ');
    return doubtful('option-differs', `It says ${says}; the entry says otherwise.`, mends);
  }
  const { clockAhead } = finding;
  if (clockAhead !== undefined && Math.abs(clockAhead) > mostClockDifference) {
    const side = clockAhead > 0 ? 'ahead of' : 'behind';
    return doubtful('clock-differs', `Its clock is ${Math.abs(clockAhead)} s ${side} that of this computer.`);
  }
  return is === '' ? notPossible('This kind of device does not say what it is.') : passed(`It says ${is}.`);
}

/** In seconds: devices refuse sign-ins whose time is further off than some of these. */
const mostClockDifference = 5;

/** A press should be felt within a tenth of a second; half of that is the network's and the device's. */
const slowMs = 100;

export function judgeRoundTrip(finding: RoundTripFinding): Verdict {
  const { times, lost, unreadable, possible, through, refusal } = finding;
  if (!possible) return notPossible('This device has no read-only query, so the round trip cannot be measured.');
  const asked = times.length + lost;
  const sorted = [...times].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.max(0, Math.ceil(sorted.length * share) - 1)] ?? 0;
  const text = `${times.length} of ${asked} answered; half within ${msText(at(0.5))}, nearly all within ${msText(at(0.95))}.`;
  if (unreadable > 0)
    return failed('garbage', `${unreadable === 1 ? '1 frame' : `${unreadable} frames`} that came could not be read.`);
  if (times.length === 0) {
    const seen = `None of ${asked} questions was answered.`;
    return failed(through ? 'behind-gateway' : 'mute', seen);
  }
  const halfMs = at(0.5);
  if (refusal !== undefined)
    return { ...doubtful('question-refused', `${text} It refused what it was asked: ${refusal}`), halfMs };
  if (lost > 0) return { ...doubtful('lossy', text), halfMs };
  return { ...(halfMs > slowMs ? doubtful('slow', text) : passed(text)), halfMs };
}

const msText = (ms: number): string => `${ms < 10 ? ms.toFixed(1) : Math.round(ms)} ms`;

export function judgeReports({ unasked, answers, listenedMs, polls, oneWay, ...odd }: ReportsFinding): Verdict {
  if (oneWay) return notPossible('Nothing can come back.');
  const time = `${(listenedMs / 1000).toFixed(listenedMs < 10_000 ? 1 : 0)} s`;
  const also = oddText(odd);
  if (unasked > 0)
    return passed(`${unasked === 1 ? '1 report' : `${unasked} reports`} came unasked in ${time}.${also}`);
  if (polls) return passed(`Changes are polled; ${answers} answers in ${time}.${also}`);
  if (answers > 0) return passed(`State came when asked; nothing changed by itself in ${time}.${also}`);
  return notPossible(`Nothing was reported in ${time}.${also}`);
}

/** Mentions frames that the driver does not know. They are no fault: devices report much that nobody needs. */
function oddText({ unfitting, unfit, unmatched }: Pick<ReportsFinding, 'unfitting' | 'unfit' | 'unmatched'>): string {
  const frames = unfitting === 1 ? '1 frame fits' : `${unfitting} frames fit`;
  const answers = unmatched === 1 ? '1 answer came' : `${unmatched} answers came`;
  return [
    unfitting > 0 && ` ${frames} no reply of the driver${unfit === undefined ? '' : `, such as “${unfit}”`}.`,
    unmatched > 0 && ` ${answers} that nothing had asked for.`,
  ]
    .filter(Boolean)
    .join('');
}

/** The whole of a test in a word: the first failure, else the first doubt, else nothing. */
export function troubleOf(verdicts: readonly Verdict[]): Trouble | undefined {
  return (verdicts.find(({ is }) => is === 'failed') ?? verdicts.find(({ is }) => is === 'doubtful'))?.trouble;
}

/** True for the name of a trouble, in what was kept by any version. */
export const isTroubleName = (name: string): name is Trouble => Object.hasOwn(troubles, name);

export const wordsOf = (trouble: Trouble): (typeof troubles)[Trouble] => troubles[trouble];
