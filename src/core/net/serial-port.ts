/** True for the name of a serial port, such as `/dev/ttyUSB0` or `COM3`. */
export const isSerialPort = (text: string): boolean =>
  /^\/dev\/[A-Za-z0-9._:/-]{1,200}$/.test(text) || /^COM\d{1,3}$/i.test(text);

/** A device's address and port, or its serial port, as text. */
export const placeText = (host: string, port: number): string => (isSerialPort(host) ? host : `${host}:${port}`);
