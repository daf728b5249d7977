import { randomBytes } from 'node:crypto';
import type * as mqtt from 'mqtt';
import { answerTopic, onlineTopic, requestTopic } from '../../core/inlet';
import { causeOfSocketError, downCauses } from '../../core/session';
import type { InletData } from '../../core/show';
import type { InletEnd, Listener } from './inlet-listener';
import { signInRefused, wrongVersion } from '../devices/links/mqtt-codes';
import { MqttSpeaker } from './mqtt-speaker';

type Broker = NonNullable<InletData['broker']>;

const keepAliveS = 20;
const connectWithinMs = 5000;
/** What waits for a broker that does not read is dropped beyond this. */
const mostUnsentBytes = 262_144;

/**
 * Speaks over a broker elsewhere, by MQTT 5.0, or 3.1.1 where the broker knows no other. Requests are listened to with at most one delivery:
 * a press that comes twice is worse than one that does not come.
 */
export function speakThrough(data: InletData, broker: Broker, listener: Listener): InletEnd {
  let client: mqtt.MqttClient | undefined;
  let isOpen = true;
  const where = `${broker.host}:${broker.port}`;
  const publish = (topic: string, payload: string, retain: boolean, more: mqtt.IClientPublishOptions = {}) => {
    if (!client?.connected || client.stream.writableLength > mostUnsentBytes) return;
    client.publish(topic, payload, { ...more, qos: 0, retain });
  };
  const speaker = new MqttSpeaker(data, listener, publish, `mqtt ${where} ${data.base ?? ''}`);
  const end = (state: 'failed' | 'locked out', why: string) => {
    if (!isOpen) return;
    close();
    listener.onState(state, why);
  };
  const close = () => {
    isOpen = false;
    speaker.close();
    if (!client) return;
    // Without the goodbye the broker publishes the last will only after a time-out.
    if (client.connected) client.publish(onlineTopic(data), 'false', { retain: true });
    client.end();
    const { stream } = client;
    setTimeout(() => stream.destroy(), 500).unref();
  };
  const begin = (connect: typeof mqtt.connect, version: 4 | 5) => {
    const { host, port, secure, user } = broker;
    const made = connect({
      protocol: secure ? 'mqtts' : 'mqtt',
      host,
      port,
      protocolVersion: version,
      clientId: `sorrelfinch-${randomBytes(5).toString('hex')}`,
      ...(user ? { username: user } : {}),
      ...(listener.password === '' ? {} : { password: listener.password }),
      clean: true,
      keepalive: keepAliveS,
      connectTimeout: connectWithinMs,
      // When to call again is decided by who opened this.
      reconnectPeriod: 0,
      resubscribe: false,
      queueQoSZero: false,
      will: { topic: onlineTopic(data), payload: Buffer.from('false'), qos: 0, retain: true },
    });
    client = made;
    made.on('connect', () => {
      if (!isOpen) return;
      const own = requestTopic(data);
      made.subscribe([own, `${own}/#`, ...(broker.topics ?? [])], { qos: 0 }, (error, granted = []) => {
        const barred = granted.filter(({ qos }) => qos >= 0x80).map(({ topic }) => topic);
        if (error || barred.length > 0)
          return end('failed', `The broker does not allow listening to ${barred.join(', ') || own}.`);
        listener.onState('listening');
        speaker.start();
      });
    });
    made.on('message', (topic, payload, { retain, dup, properties = {} }) => {
      if (!isOpen) return;
      const { responseTopic = answerTopic(data), correlationData } = properties;
      speaker.hear({
        topic,
        payload,
        from: where,
        isOld: retain,
        isRepeated: dup,
        // An answer that were a request would go round for ever.
        answer: (text) => {
          if (isUnder(requestTopic(data), responseTopic)) return false;
          publish(responseTopic, text, false, correlationData ? { properties: { correlationData } } : {});
          return true;
        },
      });
    });
    made.on('error', (error) => {
      const { code } = error as { code?: unknown };
      if (typeof code !== 'number')
        return end(
          'failed',
          typeof code === 'string' ? whyDown(code, where) : `The broker at ${where}: ${error.message}.`,
        );
      if (wrongVersion.has(code) && version === 5) {
        client = undefined;
        made.removeAllListeners('close');
        made.end(true);
        return begin(connect, 4);
      }
      if (signInRefused.has(code))
        return end('locked out', `The broker at ${where} does not accept the user name or the password.`);
      end('failed', `The broker at ${where} refuses the connection: ${error.message}.`);
    });
    made.on('close', () => end('failed', `The broker at ${where} has closed the connection, or does not answer.`));
  };
  // Loaded with the first that needs it. A module of CommonJS is whole in `default` once bundled.
  import('mqtt')
    .then((module) => {
      const { connect } = 'connect' in module ? module : (module as { default: typeof mqtt }).default;
      if (isOpen) begin(connect, 5);
    })
    .catch((error: unknown) => end('failed', String(error)));
  return { close };
}

function whyDown(code: string, where: string): string {
  const { title, tryNext } = downCauses[causeOfSocketError(code)];
  return `The broker at ${where}: ${title}. ${tryNext}`;
}

const isUnder = (base: string, topic: string): boolean => topic === base || topic.startsWith(`${base}/`);
