/** True for what names a serial port instead of an address: `/dev/ttyUSB0`, `COM3`. */
export const isSerialPort = (text: string): boolean =>
  /^\/dev\/[A-Za-z0-9._:/-]{1,200}$/.test(text) || /^COM\d{1,3}$/i.test(text);

/** Where a device is, for people: its address and port, or its serial port. */
export const placeText = (host: string, port: number): string => (isSerialPort(host) ? host : `${host}:${port}`);
