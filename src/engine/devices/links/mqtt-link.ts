import { randomBytes } from 'node:crypto';
import type * as mqtt from 'mqtt';
import type { DriverDocument } from '../../../core/driver';
import { causeOfSocketError, type DownCause } from '../../../core/session';
import {
  acknowledgementBytes,
  arrivedFromMqtt,
  publishedBytes,
  type MqttOutgoing,
  type Outgoing,
} from '../../../core/wire';
import { signInRefused, wrongVersion } from './mqtt-codes';
import { maxUnsentBytes, stuck, type DeviceLink, type LinkAddress, type LinkEvents, type Written } from './link';

const nothing = new Uint8Array();
const keepAliveS = 20;

/** PUBACK of MQTT 5.0, 3.4.2.1: the broker has it, and nobody listens to the topic. */
const noSubscribers = 0x10;

/**
 * One connection to an MQTT broker (MQTT 3.1.1 or 5.0), over which a device behind it is spoken to. That the broker is there
 * proves nothing about the device: only what the device publishes does.
 */
export class MqttLink implements DeviceLink {
  readonly proves = true;
  private client: mqtt.MqttClient | undefined;
  private ended = false;
  /** Packets of which the broker says that nobody listens: the library counts that as success and says no more. */
  private readonly unheard = new Set<number>();

  constructor(
    private readonly address: LinkAddress,
    private readonly link: DriverDocument['link'],
    private readonly maxFrameBytes: number,
    private readonly events: LinkEvents,
  ) {
    // Loaded with the first device that needs it: an engine without one starts sooner. A module of CommonJS is whole in `default` once bundled.
    import('mqtt')
      .then((module) => {
        const { connect } = 'connect' in module ? module : (module as { default: typeof mqtt }).default;
        if (!this.ended) this.begin(connect(this.options()));
      })
      .catch((error: unknown) => this.end('other', String(error)));
  }

  write(message: Outgoing, ref: number): Written {
    if (message.kind !== 'mqtt') return { ok: false, stuck: false, reason: 'Only MQTT messages can be sent here.' };
    const { client } = this;
    if (!client) return { ok: false, stuck: false, reason: 'The broker is not connected.' };
    const { publication } = message;
    const { topic, payload, retain, qos } = publication;
    let number = 0;
    client.publish(topic, Buffer.from(payload), { qos, retain }, (error) => {
      if (this.ended) return;
      const isUnheard = this.unheard.delete(number);
      const code = error ? (error as Partial<mqtt.ErrorWithReasonCode>).code : isUnheard ? noSubscribers : 0;
      // Without a number the connection broke, which the session is told by itself.
      if (typeof code === 'number') this.acknowledged(ref, publication, number, code);
    });
    number = client.getLastMessageId();
    if (client.stream.writableLength > maxUnsentBytes) return stuck;
    return { ok: true, bytes: publishedBytes(topic, payload) };
  }

  forget(): void {}

  /** What is published cannot be held back; the session drops what it cannot read in time. */
  pause(): void {}
  resume(): void {}

  rest(): Uint8Array {
    return nothing;
  }

  close(): void {
    if (this.ended) return;
    this.ended = true;
    const { client } = this;
    if (!client) return;
    // Its own clean-up listens, too, and an error of a connection that is being left must not throw: what listens here stays and says nothing more.
    client.end();
    // A broker that does not take part in the goodbye is not waited for.
    setTimeout(() => client.stream.destroy(), 500).unref();
  }

  private options(): mqtt.IClientOptions {
    const { host, port, user, password } = this.address;
    const { secure, checkCertificate, connectTimeoutMs, mqttVersion, clientId } = this.link;
    return {
      protocol: secure ? 'mqtts' : 'mqtt',
      host,
      port,
      rejectUnauthorized: checkCertificate,
      protocolVersion: mqttVersion === '5.0' ? 5 : 4,
      clientId: clientId || `sorrelfinch-${randomBytes(5).toString('hex')}`,
      ...(user === '' ? {} : { username: user }),
      ...(password === '' ? {} : { password }),
      clean: true,
      keepalive: keepAliveS,
      connectTimeout: connectTimeoutMs,
      // When to call again is the session's to say.
      reconnectPeriod: 0,
      resubscribe: false,
      queueQoSZero: false,
    };
  }

  private begin(client: mqtt.MqttClient): void {
    this.client = client;
    client.on('connect', () => this.onConnect(client));
    client.on('message', (topic, payload) => {
      if (this.ended) return;
      const isTooLong = payload.length > this.maxFrameBytes;
      this.events.onArrived([
        isTooLong
          ? {
              raw: publishedBytes(topic, nothing),
              says: [],
              fault: `A frame longer than ${this.maxFrameBytes} bytes was dropped.`,
            }
          : arrivedFromMqtt(publishedBytes(topic, payload)),
      ]);
    });
    client.on('packetreceive', (packet) => {
      if ((packet.cmd === 'puback' || packet.cmd === 'pubrec') && packet.reasonCode === noSubscribers)
        this.unheard.add(packet.messageId ?? 0);
    });
    client.on('error', (error) => this.onError(error));
    client.on('close', () => this.end('closed'));
  }

  private onConnect(client: mqtt.MqttClient): void {
    if (this.ended) return;
    const topics = this.link.topics
      .split('|')
      .map((topic) => topic.trim())
      .filter(Boolean);
    if (topics.length > 0)
      client.subscribe(topics, { qos: 1 }, (error, granted) => {
        if (this.ended) return;
        const barred = (granted ?? []).filter(({ qos }) => qos >= 0x80).map(({ topic }) => topic);
        if (!error && barred.length === 0) return;
        const which = barred.length > 0 ? barred.join(', ') : topics.join(', ');
        this.events.onArrived([{ raw: nothing, says: [], fault: `The broker does not allow listening to ${which}.` }]);
      });
    this.events.onOpen();
  }

  private acknowledged(ref: number, { retain, qos }: MqttOutgoing, packet: number, code: number): void {
    // A retained message reaches later subscribers.
    const isRefused = code >= 0x80 || (code === noSubscribers && !retain);
    const named = code.toString(16).toUpperCase().padStart(2, '0');
    const answer = isRefused ? { ref, how: 'refused' as const, code: named } : { ref, how: 'done' as const };
    this.events.onArrived([{ raw: acknowledgementBytes(qos, packet, code), says: [], answer }]);
  }

  private onError(error: Error | mqtt.ErrorWithReasonCode): void {
    const code = (error as { code?: unknown }).code;
    if (typeof code === 'number') {
      if (this.ended) return;
      if (wrongVersion.has(code))
        return this.end(
          'wrong-greeting',
          `The broker does not speak MQTT ${this.link.mqttVersion}. Choose the other version.`,
        );
      if (signInRefused.has(code)) {
        this.close();
        return this.events.onRejected('locked out', error.message);
      }
      return this.end('other', error.message);
    }
    this.end(typeof code === 'string' ? causeOfSocketError(code) : 'other', error.message);
  }

  private end(cause: DownCause, detail?: string): void {
    if (this.ended) return;
    this.close();
    this.events.onEnd(cause, detail);
  }
}
