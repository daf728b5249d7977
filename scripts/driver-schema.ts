// npm run docs:schema: writes docs/driver.schema.json and docs/roles.md from what the program checks driver documents with.
import { writeFileSync } from 'node:fs';
import { format } from 'prettier';
import { driverJsonSchema } from '../src/core/driver';
import { rolesPage } from './roles-page';

writeFileSync(
  'docs/driver.schema.json',
  await format(JSON.stringify(driverJsonSchema()), { parser: 'json', printWidth: 120 }),
);

writeFileSync('docs/roles.md', await format(rolesPage(), { parser: 'markdown', printWidth: 120 }));
