import { createServer, type Socket } from 'node:net';
import type { Aedes, Client } from 'aedes';
import { answerTopic, isOwnTopic } from '../../core/inlet';
import type { InletData } from '../../core/show';
import { PacketLimit } from '../../core/wire/mqtt';
import { callerOf, wrongTokenMs } from './callers';
import type { InletEnd, Listener } from './inlet-listener';
import { MqttSpeaker } from './mqtt-speaker';

const mostClients = 64;
const mostPacketBytes = 65_536;
const mostSubscriptions = 200;
/** A client with more unread bytes than this is disconnected. */
const mostUnsentBytes = 262_144;
const signInWithinMs = 5000;

/** CONNACK, 3.2.2.3 of MQTT 3.1.1: bad user name or password. */
const badPassword = 4;

/**
 * A broker of MQTT 3.1.1 of our own. What clients publish below the topic of the requests is carried out, everything else is handed on to those
 * who listen to it, and may set off watches. It keeps nothing but what the program itself publishes: no sessions, and nothing that clients retain.
 */
export function listenBroker(data: InletData, listener: Listener): InletEnd {
  const open = new Set<Socket>();
  const names = new WeakMap<Client, string>();
  const subscribed = new WeakMap<Client, number>();
  let broker: Aedes | undefined;
  let isOpen = true;
  const publish = (topic: string, payload: string, retain: boolean) =>
    broker?.publish({ cmd: 'publish', topic, payload, qos: 0, retain, dup: false }, () => undefined);
  const speaker = new MqttSpeaker(data, listener, publish, `mqtt ${data.port}`);
  const placeOf = ({ conn }: Client): string => {
    const { remoteAddress = '', remotePort = 0 } = conn as Socket;
    return `${remoteAddress}:${remotePort}`;
  };
  const server = createServer((socket) => {
    const address = socket.remoteAddress ?? '';
    const from = `${address}:${socket.remotePort ?? 0}`;
    if (!broker || !listener.mayComeFrom(address) || open.size >= mostClients) {
      listener.onRefused(from, open.size >= mostClients ? 'too many connections' : 'sender not allowed');
      socket.destroy();
      return;
    }
    open.add(socket);
    socket.on('close', () => open.delete(socket));
    broker.handle(socket);
    const limit = new PacketLimit(mostPacketBytes);
    // The broker reads by itself; this only looks on.
    socket.on('data', (chunk: Buffer) => {
      if (limit.takes(chunk)) return;
      listener.onRefused(from, 'message too long, or not MQTT');
      socket.destroy();
    });
  });
  server.on('error', (error) => listener.onPortFailed(error));
  // Loaded with the first inlet that needs it: an engine without one starts sooner.
  void import('aedes')
    .then(({ Aedes }) =>
      Aedes.createBroker({
        connectTimeout: signInWithinMs,
        queueLimit: 100,
        maxTopicLevels: 30,
        preConnect: (_client, packet, done) => {
          // Sessions are not kept: what somebody missed while away is old.
          packet.clean = true;
          done(null, true);
        },
        authenticate: (client, _user, password, done) => {
          const { remoteAddress = '' } = client.conn as Socket;
          const caller = callerOf(data, password?.toString('utf8'), remoteAddress);
          if ('error' in caller) {
            listener.onRefused(placeOf(client), 'wrong or missing token');
            setTimeout(
              () => done(Object.assign(new Error(caller.error), { returnCode: badPassword }), false),
              wrongTokenMs,
            );
            return;
          }
          if (caller.name !== undefined) names.set(client, caller.name);
          done(null, true);
        },
        authorizeSubscribe: (client, subscription, done) => {
          const count = (subscribed.get(client) ?? 0) + 1;
          subscribed.set(client, count);
          done(null, count <= mostSubscriptions ? subscription : null);
        },
        authorizePublish: (client, packet, done) => {
          if (!client) return done(null);
          const { topic, payload } = packet;
          const from = placeOf(client);
          if (topic.startsWith('$') || isOwnTopic(data, topic)) {
            listener.onRefused(from, `nobody else may publish to ${topic.slice(0, 80)}`);
            return done(new Error('Not allowed to publish here.'));
          }
          packet.retain = false;
          const caller = names.get(client);
          const isTaken = speaker.hear({
            topic,
            payload: typeof payload === 'string' ? Buffer.from(payload) : payload,
            from,
            ...(caller === undefined ? {} : { caller }),
            isOld: false,
            isRepeated: packet.dup,
            answer: (text) => {
              publish(answerTopic(data, client.id), text, false);
              return true;
            },
          });
          done(isTaken ? null : new Error('Too many messages per second.'));
        },
        authorizeForward: (client, packet) => {
          if ((client.conn as Socket).writableLength <= mostUnsentBytes) return packet;
          client.close();
          return null;
        },
      }),
    )
    .then((made) => {
      if (!isOpen) return made.close();
      broker = made;
      // A client that breaks the rules is disconnected, which is all that the protocol offers.
      made.on('connectionError', (client, error) => listener.onRefused(placeOf(client), error.message));
      server.listen(data.port, data.host, () => {
        listener.onState('listening');
        speaker.start();
      });
    })
    .catch((error: unknown) => listener.onState('failed', String(error)));
  return {
    close: () => {
      isOpen = false;
      speaker.close();
      server.close();
      broker?.close();
      for (const socket of open) socket.destroy();
    },
  };
}
