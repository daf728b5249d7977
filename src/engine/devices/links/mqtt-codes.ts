/** CONNACK: what says that the sign-in was not accepted. MQTT 3.1.1, 3.2.2.3; MQTT 5.0, 3.2.2.2. */
export const signInRefused: ReadonlySet<number> = new Set([0x04, 0x05, 0x86, 0x87, 0x8a, 0x8c]);
/** CONNACK: the broker does not speak this version. */
export const wrongVersion: ReadonlySet<number> = new Set([0x01, 0x84]);
