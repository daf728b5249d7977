import { freePort } from '../src/server/free-port';
import { compare, type Scale } from './compare';
import { BenchDevice } from './device';
import { manyPages } from './many-pages';
import { ownPath } from './paths';
import { end, startProgram } from './processes';

/** The same change with 100 controls in the show and with 10,000, all of which depend on it; a panel shows one page of 100. */
export async function measureChangeCost(scale: Scale): Promise<void> {
  const programs = await Promise.all(
    [1, 100].map(async (pages) => {
      const device = new BenchDevice(true);
      const port = await freePort();
      const program = await startProgram(port, manyPages(pages, await device.listen()));
      const name = `${(pages * 100).toLocaleString('en')} controls`;
      const path = await ownPath(`ws://127.0.0.1:${port}`, device, 'page-0', name);
      for (let n = 1; n <= 301; n += 1) await path.report(n);
      return { device, program, path };
    }),
  );
  const [few, many] = programs;
  if (!few || !many) return;
  await compare(scale, 'Report to panel message, by the size of the show', few.path, many.path, 'report', {
    p50: 1.5,
    p99: 1.5,
  });
  for (const { device, program, path } of programs) {
    path.close();
    await end(program);
    device.close();
  }
}
