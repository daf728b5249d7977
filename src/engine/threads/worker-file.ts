import { join } from 'node:path';
import { Worker } from 'node:worker_threads';

/** The sources of the workers. Built, they all lie beside one another. */
const sources = {
  'as-run-worker': '../record/as-run-worker.ts',
  'show-worker': '../show/show-worker.ts',
} as const;
type WorkerName = keyof typeof sources;

/** Workers that have loaded their code. `begun` ones have their data as well and wait for orders. */
const ready = new Map<WorkerName, { readonly worker: Worker; readonly begun: boolean }>();

/** Loads a worker's code ahead of time. Without data it waits for `startWorker` to hand that over. */
export function preloadWorker(name: WorkerName, data?: unknown): void {
  const worker = load(name);
  if (data !== undefined) worker.postMessage(data);
  ready.set(name, { worker, begun: data !== undefined });
  const forget = () => {
    if (ready.get(name)?.worker === worker) ready.delete(name);
  };
  worker.once('exit', forget);
  // One that fails here is loaded again when it is needed, and says then what is wrong.
  worker.on('error', forget);
}

/** Starts a worker, or takes one that was preloaded. Its first message is `data`. */
export function startWorker(name: WorkerName, data: unknown): Worker {
  const preloaded = ready.get(name);
  ready.delete(name);
  const worker = preloaded?.worker ?? load(name);
  if (!preloaded?.begun) worker.postMessage(data);
  return worker;
}

/** Loads the built `.js`, or the `.ts` source through tsx while developing. Tests name a folder where they have built it. */
function load(name: WorkerName): Worker {
  const { SORRELFINCH_WORKERS: built } = process.env;
  if (built) return new Worker(join(built, `${name}.js`));
  const fromSource = import.meta.url.endsWith('.ts');
  if (!fromSource) return new Worker(new URL(`./${name}.js`, import.meta.url));
  const { href } = new URL(sources[name], import.meta.url);
  const load = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(href)}); });`;
  return new Worker(load, { eval: true });
}
