import { Server } from 'rpc-websockets';
import { describe, expect, it } from 'vitest';
import { foreign, linkIs, printed, reading, saysOf, send, start, startPython } from './support/foreign-end';
import { onTestFinished } from './support/rig';

/** JSON-RPC 2.0: over TCP with a server in Python, written from the specification; over WebSocket with one from a package. */

/** A line is an object; 4: the request, 5: the response, 5.1: the errors. Its answers overtake each other. */
const server = `
import json, socket, threading
server = socket.socket()
server.bind(('127.0.0.1', 0))
server.listen(5)
print(server.getsockname()[1], flush=True)
level, late = 10, []
def error(id, code, message): return {'jsonrpc': '2.0', 'error': {'code': code, 'message': message}, 'id': id}
def answer(asked):
    global level
    method, params, id = asked['method'], asked.get('params'), asked.get('id')
    print(method, json.dumps(params), 'call' if id is not None else 'notification', flush=True)
    if method == 'sign in':
        if params != {'who': 'ann', 'pass': 'low "tide"'}: return error(id, 1, 'Wrong password')
        return {'jsonrpc': '2.0', 'result': True, 'id': id}
    if method == 'level':
        level = params['to']
        return {'jsonrpc': '2.0', 'result': None, 'id': id}
    if method == 'status': return {'jsonrpc': '2.0', 'result': {'level': level}, 'id': id}
    if method == 'slow':
        late.append({'jsonrpc': '2.0', 'result': 'at last', 'id': id})
        return None
    if method == 'flush':
        return [{'jsonrpc': '2.0', 'result': 'overtook', 'id': id}] + late
    return error(id, -32601, 'Method not found')
def serve(peer):
    for line in peer.makefile('r'):
        try: said = answer(json.loads(line))
        except ValueError: said = error(None, -32700, 'Parse error')
        for each in said if isinstance(said, list) else [said]:
            if each is not None and ('error' in each or each['id'] is not None): peer.sendall(json.dumps(each).encode() + b'\\n')
        if level == 77: peer.sendall(b'{"jsonrpc": "2.0", "method": "warning", "params": ["hot"]}\\n')
while True: threading.Thread(target=serve, args=(server.accept()[0],), daemon=True).start()
`;

const base = { risky: false, harmless: false, class: 'ordinary' } as const;
const additions = {
  commands: {
    own1: {
      ...base,
      title: 'Level',
      params: { to: { title: 'To', value: { type: 'whole', min: 0, max: 100 }, sends: 'index', optional: false } },
      send: '\\{"jsonrpc":"2.0","id":{ref},"method":"level","params":\\{"to":{to}\\}\\}',
      confirm: { by: 'readings', all: [{ reading: 'own1', equals: { param: 'to' } }], withinMs: 1500 },
    },
  },
  readings: { own1: { title: 'Level', value: { type: 'whole' } } },
  replies: [{ take: { value: '/result/level' }, set: { own1: '{value}' } }],
};

const signIn = { first: 'signIn', firstMethod: 'sign in', userName: 'who', passwordName: 'pass' };
const asked = { asked: 'yes', askedMethod: 'status', everyMs: 200, silentAfterMs: 1000 };

describe('JSON-RPC over TCP', () => {
  foreign('signs in, asks for the state, and a value is confirmed by it', async () => {
    const device = await startPython(server);
    const options = { ...signIn, ...asked };
    const rig = await start('generic-jsonrpc-tcp', device.port, { user: 'ann', options, additions }, 'low "tide"');
    await linkIs(rig, 'up');
    await saysOf(rig, 'own1', 10);
    expect(await send(rig, 'own1', { to: 62 })).toMatchObject({ outcome: 'confirmed' });
    expect(device.lines.filter((line) => line.startsWith('level'))).toEqual(['level {"to": 62} call']);
  });

  foreign('is locked out where the sign-in is refused', async () => {
    const device = await startPython(server);
    const rig = await start('generic-jsonrpc-tcp', device.port, { user: 'ann', options: signIn }, 'high tide');
    await linkIs(rig, 'locked out');
  });

  foreign('answers find their calls by number, errors refuse, and a notification ends as sent', async () => {
    const device = await startPython(server);
    const rig = await start('generic-jsonrpc-tcp', device.port);
    await linkIs(rig, 'not checked');
    const slow = send(rig, 'call', { method: 'slow' });
    await printed(device.lines, ['slow null call']);
    expect(await send(rig, 'call', { method: 'flush' })).toMatchObject({ outcome: 'confirmed' });
    expect(await slow).toMatchObject({ outcome: 'confirmed' });
    const refused = await send(rig, 'call', { method: 'dance "now"', params: '[1]' });
    expect(refused).toMatchObject({
      outcome: 'refused',
      sends: [{ reason: expect.stringContaining('Method not found') }],
    });
    expect(await send(rig, 'notify', { method: 'level', params: '{"to": 77}' })).toMatchObject({ outcome: 'sent' });
    await saysOf(rig, 'notified', 'warning');
    expect(reading(rig, 'notifiedParams')).toBe('["hot"]');
    // 5.1: what cannot be parsed has no id in its answer.
    const broken = await send(rig, 'call', { method: 'level', params: '{"to": ' });
    expect(broken).toMatchObject({ outcome: 'refused', sends: [{ reason: expect.stringContaining('Parse error') }] });
  });
});

it('JSON-RPC over WebSocket speaks with a server of a package: results, errors, notifications', async () => {
  const peer = new Server({ port: 0, host: '127.0.0.1' });
  onTestFinished(() => void peer.close());
  await new Promise((resolve) => void peer.on('listening', resolve));
  let level = 3;
  const told: unknown[] = [];
  peer.register('level', (params) => {
    told.push(params);
    level = (params as { to: number }).to;
    return level;
  });
  peer.register('status', () => ({ level }));
  const { port } = peer.wss.address() as { port: number };
  const options = { ...asked, first: 'yes', firstMethod: 'status' };
  const rig = await start('generic-jsonrpc-websocket', port, { options, additions: { ...additions, commands: {} } });
  await linkIs(rig, 'up');
  await saysOf(rig, 'own1', 3);
  expect(await send(rig, 'call', { method: 'level', params: '{"to": 8}' })).toMatchObject({ outcome: 'confirmed' });
  await saysOf(rig, 'own1', 8);
  expect(told).toEqual([{ to: 8 }]);
  expect(await send(rig, 'call', { method: 'dance' })).toMatchObject({ outcome: 'refused' });
  expect(await send(rig, 'notify', { method: 'level', params: '{"to": 9}' })).toMatchObject({ outcome: 'sent' });
  await saysOf(rig, 'own1', 9);
  // The package writes its own notifications in another form than the specification does (4.1).
  for (const client of peer.wss.clients) client.send('{"jsonrpc":"2.0","method":"clipped","params":["strip 2"]}');
  await saysOf(rig, 'notifiedParams', '["strip 2"]');
});
