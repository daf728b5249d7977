import { ServerTCP } from 'modbus-serial';
import { freePort } from '../../src/server/free-port';
import { onTestFinished } from './rig';

type Vector = ConstructorParameters<typeof ServerTCP>[0];

/** A Modbus device made of a package from the registry, at a port of its own: 0 means 502 to it, which two tests cannot share. */
export async function startModbus(vector: Vector, unitID = 1): Promise<number> {
  const port = await freePort();
  const server = new ServerTCP(vector, { host: '127.0.0.1', port, debug: false, unitID });
  onTestFinished(() => new Promise<void>((done) => server.close(() => done())));
  await new Promise<void>((done) => server.on('initialized', () => done()));
  return port;
}
