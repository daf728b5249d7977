import { z } from 'zod';
import { commandSchema, driverDocumentSchema } from './schema';

/** The published schema of driver documents (JSON Schema 2020-12), made from what they are checked with. */
export function driverJsonSchema(): unknown {
  const schema = z.toJSONSchema(driverDocumentSchema, {
    io: 'input',
    target: 'draft-2020-12',
    // A new document is refused without it (`checkNewDriver`); documents from before are still read.
    override: ({ zodSchema, jsonSchema }) => {
      if (zodSchema === commandSchema) jsonSchema.required = [...(jsonSchema.required ?? []), 'says'];
    },
  }) as Record<string, unknown>;
  return { title: 'Sorrelfinch driver document, format 1', ...schema };
}
