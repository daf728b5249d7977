import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

/**
 * Builds the engine's workers once for all tests: from their sources each of the hundreds that the tests start would be
 * translated anew, which takes seconds on a busy machine.
 */
export default async function buildWorkers(): Promise<() => void> {
  const outdir = join(process.cwd(), 'node_modules/.cache', `workers-${process.pid}`);
  await build({
    entryPoints: {
      'as-run-worker': 'src/engine/record/as-run-worker.ts',
      'show-worker': 'src/engine/show/show-worker.ts',
    },
    outdir,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    logLevel: 'warning',
  });
  process.env.SORRELFINCH_WORKERS = outdir;
  return () => rmSync(outdir, { recursive: true, force: true });
}
