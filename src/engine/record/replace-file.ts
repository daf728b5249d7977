import { rename, writeFile } from 'node:fs/promises';

/** Replaces a file by another content, whole or not at all; only its owner can read it. */
export async function replaceFile(path: string, text: string): Promise<void> {
  await writeFile(`${path}.new`, text, { mode: 0o600 });
  await rename(`${path}.new`, path);
}
