/** True for the name of a serial port, such as `/dev/ttyUSB0` or `COM3`. */
export const isSerialPort = (text: string): boolean =>
  /^\/dev\/[A-Za-z0-9._:/-]{1,200}$/.test(text) || /^COM\d{1,3}$/i.test(text);

const midiPrefix = 'midi:';

/** True for a MIDI port as a device has it: `midi:` and the name of the port. */
export const isMidiPort = (text: string): boolean => /^midi:\S[^\r\n]{0,119}$/.test(text);
export const midiPlace = (name: string): string => `${midiPrefix}${name}`;
export const midiPortName = (place: string): string => place.slice(midiPrefix.length);

/**
 * True when two names are those of the same MIDI port. Linux puts the numbers of client and port behind the name (`Desk 24:0`), and Windows the place in
 * its list; both change when something else is plugged in.
 */
export const isSameMidiPort = (a: string, b: string): boolean => bareName(a) === bareName(b);
const bareName = (name: string): string => name.replace(/\s+(?:\d+:\d+|\d+)$/, '').trim();

/** Where a device is that this program itself is, instead of an address. */
export const internalPlace = 'internal';
export const isInternalPlace = (text: string): boolean => text === internalPlace;

/** True for a port of this computer, or this program itself, instead of an address on a network. */
export const isLocalPort = (text: string): boolean => isSerialPort(text) || isMidiPort(text) || isInternalPlace(text);

/** A device's address and port, or its port of this computer, as text. */
export const placeText = (host: string, port: number): string =>
  isInternalPlace(host) ? 'this program' : isLocalPort(host) ? host : `${host}:${port}`;
