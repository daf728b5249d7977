import { z } from 'zod';
import { text } from './reading-ref';

/** Named values of the show, as they are stored. How they change is worked out in `core/variables`. */

/** What the reading and the commands of a variable are called by: `SHOW.variable.lap`, `setLap`. */
const variableKeySchema = z
  .string()
  .regex(/^[a-z][A-Za-z0-9]{0,29}$/, 'a small letter, then letters and digits, 30 at most');

/** The longest text of a variable, in characters. */
export const longestVariableText = 200;

const choices = z.array(text(60).min(1)).min(2, 'at least two choices').max(60);

export const variableValueSchema = z
  .discriminatedUnion('type', [
    z.strictObject({ type: z.literal('text'), initial: text(longestVariableText).default('') }),
    z.strictObject({
      type: z.literal('number'),
      min: z.number().min(-1_000_000_000),
      max: z.number().max(1_000_000_000),
      /** What it counts by. */
      step: z.number().positive().max(1_000_000_000).default(1),
      /** Digits after the point. */
      decimals: z.number().int().min(0).max(6).default(0),
      unit: text(10).default(''),
      /** Counting beyond one end goes on at the other. */
      wraps: z.literal(true).optional(),
      initial: z.number().default(0),
    }),
    z.strictObject({ type: z.literal('onOff'), initial: z.boolean().default(false) }),
    z.strictObject({ type: z.literal('choice'), choices, initial: z.string() }),
  ])
  .superRefine((value, context) => {
    const problem = (message: string, path: string) => context.addIssue({ code: 'custom', message, path: [path] });
    if (value.type === 'number') {
      if (value.min >= value.max) problem('The maximum must be above the minimum.', 'max');
      if (value.initial < value.min || value.initial > value.max)
        problem('The initial value must be within the range.', 'initial');
    }
    if (value.type === 'choice') {
      if (new Set(value.choices).size < value.choices.length)
        problem('The choices must differ from each other.', 'choices');
      if (!value.choices.includes(value.initial)) problem('The initial value must be one of the choices.', 'initial');
    }
  });
export type VariableValue = z.infer<typeof variableValueSchema>;

export const variableDataSchema = z.strictObject({
  name: text(40).min(1),
  key: variableKeySchema,
  order: z.number(),
  note: text(2000).default(''),
  value: variableValueSchema,
  /** It has its initial value again whenever the program starts; else it keeps the last one. */
  resets: z.literal(true).optional(),
});
export type VariableData = z.infer<typeof variableDataSchema>;

/** The highest number of variables of a show. */
export const mostVariables = 200;
