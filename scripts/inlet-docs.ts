// npm run docs:inlets: writes docs/inlets.md and docs/inlet.openapi.json from what the program answers requests by.
import { writeFileSync } from 'node:fs';
import { format } from 'prettier';
import { inletDocument, inletOpenApi } from '../src/core/inlet';

writeFileSync('docs/inlets.md', await format(inletDocument(), { parser: 'markdown', printWidth: 120 }));
writeFileSync(
  'docs/inlet.openapi.json',
  await format(JSON.stringify(inletOpenApi()), { parser: 'json', printWidth: 120 }),
);
