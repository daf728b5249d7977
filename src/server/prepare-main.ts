import { StoreError } from '../store';
import { addPresetPictures, prepare } from './prepare';
import { readSettings } from './settings';

const settings = readSettings(process.env);
try {
  if (!settings.ok) throw new Error(settings.error.map((problem) => problem.message).join(' '));
  const { dataDir } = settings.value;
  const demo = process.argv.includes('--demo');
  prepare(dataDir, demo, settings.value.standinPortBase, settings.value.recover);
  if (demo) await addPresetPictures(dataDir);
} catch (error) {
  console.error(
    error instanceof StoreError ? `${error.message} (${error.code})` : error instanceof Error ? error.message : error,
  );
  process.exitCode = 1;
}
