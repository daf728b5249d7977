import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { generate } from 'selfsigned';
import { describe, expect, it } from 'vitest';
import { linkIs, printed, saysOf, send, start } from './support/foreign-end';
import { hasBroker, publish, startBroker, startListener } from './support/mqtt-broker';
import { onTestFinished } from './support/rig';

/** “Any device: MQTT” against a broker and clients of other people. */

/** On the machine that decides, nothing of this may be passed over. */
const withBroker = hasBroker || process.env.CI ? it : it.skip;

async function broker(settings?: string, at?: number) {
  const made = await startBroker(settings, at);
  onTestFinished(made.stop);
  return made;
}

async function listener(...args: Parameters<typeof startListener>): Promise<readonly string[]> {
  const { lines, stop } = await startListener(...args);
  onTestFinished(stop);
  return lines;
}

const on = { title: 'On', value: { type: 'onOff', on: 'true', off: 'false' } };
const base = { params: {}, risky: false, harmless: false, class: 'ordinary' };
const lamp = {
  commands: {
    own1: {
      ...base,
      title: 'Lamp',
      params: { on, level: { title: 'Level', value: { type: 'whole', min: 0, max: 100 } } },
      send: { mqtt: { topic: 'stage/lamp/set', json: { on: '{on}', level: '{level}' }, qos: { option: 'qos' } } },
      confirm: {
        by: 'readings',
        all: [
          { reading: 'own1', equals: { param: 'on' } },
          { reading: 'own2', equals: { param: 'level' } },
        ],
        withinMs: 3000,
      },
    },
    own2: {
      ...base,
      title: 'Brighter',
      params: {
        level: { title: 'Level', value: { type: 'whole', min: 0, max: 100 }, step: { from: 'own2', by: 10 } },
      },
      send: { mqtt: { topic: 'stage/lamp/set', json: { on: true, level: '{level}' }, qos: { option: 'qos' } } },
      confirm: { by: 'readings', all: [{ reading: 'own2', equals: { param: 'level' } }], withinMs: 3000 },
    },
  },
  readings: {
    own1: { title: 'Lamp', value: { type: 'onOff', on: 'true', off: 'false' } },
    own2: { title: 'Level', value: { type: 'whole' } },
    own3: { title: 'Door', value: { type: 'onOff', on: 'OPEN', off: 'SHUT' } },
  },
  replies: [
    { topic: '^stage/lamp/state$', take: { value: '/on' }, set: { own1: '{value}' } },
    { topic: '^stage/lamp/state$', take: { value: '/level' }, set: { own2: '{value}' } },
    { topic: '^stage/door$', match: '^(?P<value>(?s:.*))$', set: { own3: '{value}' } },
  ],
};

describe('any device behind an MQTT broker', () => {
  withBroker.each(['5.0', '3.1.1'])(
    'MQTT %s: what the broker keeps is known at once, and a command is confirmed by what the device reports',
    async (mqttVersion) => {
      const { port } = await broker();
      publish(port, 'stage/lamp/state', '{"on": false, "level": 12}');
      publish(port, 'stage/door', 'SHUT');
      const lines = await listener(port, 'stage/lamp/set', (text) => publish(port, 'stage/lamp/state', text));
      const options = { topics: 'stage/# | desk/+/state', mqttVersion, qos: mqttVersion === '5.0' ? 2 : 1 };
      const rig = await start('generic-mqtt', port, { options, additions: lamp });
      await linkIs(rig, 'up');
      await saysOf(rig, 'own1', false);
      await saysOf(rig, 'own2', 12);
      await saysOf(rig, 'own3', false);
      expect(await send(rig, 'own1', { on: true, level: 70 })).toMatchObject({ outcome: 'confirmed' });
      await printed(lines, ['{"on":true,"level":70}']);
      // Pressed three times before the device has said anything: three steps.
      const brighter = await Promise.all([1, 2, 3].map(() => send(rig, 'own2', {})));
      expect(brighter.map(({ outcome }) => outcome)).toEqual(['confirmed', 'confirmed', 'confirmed']);
      await saysOf(rig, 'own2', 100);
      expect(lines.slice(1)).toEqual([80, 90, 100].map((level) => `{"on":true,"level":${level}}`));
      // Somebody else opens the door.
      publish(port, 'stage/door', 'OPEN');
      await saysOf(rig, 'own3', true);
      publish(port, 'desk/4/state', 'Grüße aus Reihe 3');
      await saysOf(rig, 'topic', 'desk/4/state');
      await saysOf(rig, 'said', 'Grüße aus Reihe 3');
    },
  );

  withBroker('with MQTT 5.0 a message that nothing listens to is refused, and one that is kept is not', async () => {
    const { port } = await broker();
    const rig = await start('generic-mqtt', port, { options: { topics: 'stage/#' } });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'text', { topic: 'nobody/there', payload: 'on' })).toMatchObject({
      outcome: 'refused',
      reason: 'The broker accepted it, but no device subscribes to this topic.',
    });
    expect(await send(rig, 'kept', { topic: 'nobody/there', payload: 'on' })).toMatchObject({ outcome: 'confirmed' });
    const heard = await listener(port, 'nobody/there', () => undefined);
    await printed(heard, ['on']);
    expect(await send(rig, 'text', { topic: 'a/+', payload: '' })).toMatchObject({
      outcome: 'lost',
      reason: 'A message goes to one topic: “a/+” has + or # in it.',
    });
  });

  withBroker('a wrong password locks out, a broker that is gone is down, and it is called again', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'sorrelfinch-names-'));
    onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
    const names = join(folder, 'names');
    spawnSync('/usr/bin/mosquitto_passwd', ['-c', '-b', names, 'desk', 'tide-4']);
    const settings = `allow_anonymous false\npassword_file ${names}\nuser root`;
    const running = await broker(settings);
    const { port } = running;
    const wrong = await start('generic-mqtt', port, { user: 'desk' }, 'tide-5');
    await linkIs(wrong, 'locked out');
    const rig = await start('generic-mqtt', port, { user: 'desk', options: { topics: 'stage/#' } }, 'tide-4');
    await linkIs(rig, 'not checked');
    await running.stop();
    await linkIs(rig, 'down');
    await broker(settings, port);
    await linkIs(rig, 'not checked');
    publish(port, 'stage/door', 'OPEN', ['-u', 'desk', '-P', 'tide-4']);
    await linkIs(rig, 'up');
  });

  withBroker('over TLS the certificate is checked where the device’s options say so', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'sorrelfinch-tls-'));
    onTestFinished(() => rmSync(folder, { recursive: true, force: true }));
    const made = await generate([{ name: 'commonName', value: 'broker' }], { keySize: 2048 });
    writeFileSync(join(folder, 'cert.pem'), made.cert);
    writeFileSync(join(folder, 'key.pem'), made.private, { mode: 0o644 });
    const files = `certfile ${join(folder, 'cert.pem')}\nkeyfile ${join(folder, 'key.pem')}\nuser root`;
    const { port } = await broker(`allow_anonymous true\n${files}`);
    const rig = await start('generic-mqtt', port, { options: { tls: 'tls' } });
    await linkIs(rig, 'not checked');
    expect(await send(rig, 'kept', { topic: 'stage/door', payload: 'SHUT' })).toMatchObject({ outcome: 'confirmed' });
    const checked = await start('generic-mqtt', port, { options: { tls: 'tls', checked: true } });
    await linkIs(checked, 'down');
    expect(checked.engine.api.health().links[0]?.link).toMatchObject({ cause: 'certificate' });
  });
});
