import { StoreError } from '../store';
import { prepare } from './prepare';
import { readSettings } from './settings';

const settings = readSettings(process.env);
try {
  if (!settings.ok) throw new Error(settings.error.map((problem) => problem.message).join(' '));
  prepare(
    settings.value.dataDir,
    process.argv.includes('--demo'),
    settings.value.standinPortBase,
    settings.value.recover,
  );
} catch (error) {
  console.error(
    error instanceof StoreError ? `${error.message} (${error.code})` : error instanceof Error ? error.message : error,
  );
  process.exitCode = 1;
}
