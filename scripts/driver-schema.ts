// npm run docs:schema: writes docs/driver.schema.json from what the program checks driver documents with.
import { writeFileSync } from 'node:fs';
import { format } from 'prettier';
import { driverJsonSchema } from '../src/core/driver';

writeFileSync(
  'docs/driver.schema.json',
  await format(JSON.stringify(driverJsonSchema()), { parser: 'json', printWidth: 120 }),
);
