import { freePort } from '../src/server/free-port';
import { compare, type Scale } from './compare';
import { BenchDevice } from './device';
import { ownPath } from './paths';
import { end, showOfOneDevice, startProgram, warmUp } from './processes';

/** What TLS costs on the way of a press: the same program, plain and under its own certificate. */
export async function measureSecure(scale: Scale): Promise<void> {
  const device = new BenchDevice(true);
  const port = await freePort();
  const program = await startProgram(port, showOfOneDevice(await device.listen()), {
    HOST: '0.0.0.0',
    ACCESS_KEY: 'only for the bench',
  });
  const plain = await ownPath(`ws://127.0.0.1:${port}`, device, undefined, 'plain');
  const secure = await ownPath(`wss://127.0.0.1:${port}`, device, undefined, 'TLS');
  await warmUp([plain, secure]);
  await compare(scale, 'Press to device byte, TLS against plain', plain, secure, 'press', {});
  await compare(scale, 'Report to panel message, TLS against plain', plain, secure, 'report', {});
  for (const path of [plain, secure]) path.close();
  await end(program);
  device.close();
}
