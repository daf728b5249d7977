import { join } from 'node:path';
import { Worker } from 'node:worker_threads';

/**
 * Starts a worker that lies beside this module: the built `.js`, or the `.ts` source through tsx while developing. Tests name
 * a folder where they have built it.
 */
export function startWorker(name: string, workerData: unknown): Worker {
  const { SORRELFINCH_WORKERS: built } = process.env;
  if (built) return new Worker(join(built, `${name}.js`), { workerData });
  const fromSource = import.meta.url.endsWith('.ts');
  const file = new URL(`./${name}.${fromSource ? 'ts' : 'js'}`, import.meta.url);
  if (!fromSource) return new Worker(file, { workerData });
  const load = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(file.href)}); });`;
  return new Worker(load, { workerData, eval: true });
}
