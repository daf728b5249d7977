import { z } from 'zod';
import { driverDocumentSchema } from './schema';

/** The published schema of driver documents (JSON Schema 2020-12), made from what they are checked with. */
export function driverJsonSchema(): unknown {
  const schema = z.toJSONSchema(driverDocumentSchema, { io: 'input', target: 'draft-2020-12' }) as Record<
    string,
    unknown
  >;
  return { title: 'Sorrelfinch driver document, format 1', ...schema };
}
