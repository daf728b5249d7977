import { Worker } from 'node:worker_threads';

/**
 * Starts a worker that lies beside this module: the built `.js`, or the `.ts` source through tsx while developing and
 * in tests.
 */
export function startWorker(name: string, workerData: unknown): Worker {
  const fromSource = import.meta.url.endsWith('.ts');
  const file = new URL(`./${name}.${fromSource ? 'ts' : 'js'}`, import.meta.url);
  if (!fromSource) return new Worker(file, { workerData });
  const load = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(file.href)}); });`;
  return new Worker(load, { workerData, eval: true });
}
