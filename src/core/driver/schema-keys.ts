import { driverJsonSchema } from './json-schema';

/** A part of a JSON Schema (2020-12), as far as the one of driver documents goes. */
interface Schema {
  readonly $ref?: string;
  readonly $defs?: Readonly<Record<string, Schema>>;
  readonly type?: string;
  readonly const?: unknown;
  readonly enum?: readonly unknown[];
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly additionalProperties?: Schema | boolean;
  readonly items?: Schema;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly default?: unknown;
}

/** One key that an object of a driver document can have. */
interface SchemaKey {
  readonly name: string;
  /** What its value is, in words: “text”, “on or off”, “tcp, udp or http”. */
  readonly what: string;
  readonly isRequired: boolean;
}

/** What can stand at a place of a driver document. */
interface SchemaPlace {
  /** The keys of the object there, those that are required first. */
  readonly keys: readonly SchemaKey[];
  /** The values that the place takes, where there are only a few. */
  readonly values: readonly string[];
  readonly what: string;
}

let whole: Schema | undefined;
const root = (): Schema => (whole ??= driverJsonSchema() as Schema);

/** What the schema of driver documents says of a place, given by its keys and indices from the root. */
export function schemaAt(path: readonly (string | number)[]): SchemaPlace {
  let here: readonly Schema[] = alternativesOf(root());
  for (const step of path) here = here.flatMap((schema) => childOf(schema, step)).flatMap(alternativesOf);
  const keys = new Map<string, SchemaKey>();
  for (const { properties = {}, required = [] } of here) {
    for (const [name, schema] of Object.entries(properties)) {
      const known = keys.get(name);
      const isRequired = required.includes(name) && known?.isRequired !== false;
      const what = wordsOf(alternativesOf(schema));
      keys.set(name, { name, what: known && known.what !== what ? 'depends on its kind' : what, isRequired });
    }
  }
  return {
    keys: [...keys.values()].sort((a, b) => Number(b.isRequired) - Number(a.isRequired)),
    values: [...new Set(here.flatMap(valuesOf))],
    what: wordsOf(here),
  };
}

function alternativesOf(schema: Schema): readonly Schema[] {
  if (schema.$ref !== undefined) return alternativesOf(resolved(schema.$ref));
  const own = [...(schema.anyOf ?? []), ...(schema.oneOf ?? [])];
  return own.length > 0 ? own.flatMap(alternativesOf) : [schema];
}

/** A reference within the schema (RFC 6901): `#`, or `#/$defs/name`. */
const resolved = (ref: string): Schema =>
  ref === '#' ? root() : (root().$defs?.[ref.slice(ref.lastIndexOf('/') + 1)] ?? {});

function childOf(schema: Schema, step: string | number): readonly Schema[] {
  if (typeof step === 'number') return schema.items ? [schema.items] : [];
  const own = schema.properties?.[step];
  if (own) return [own];
  return typeof schema.additionalProperties === 'object' ? [schema.additionalProperties] : [];
}

const valuesOf = (schema: Schema): readonly string[] => {
  if (schema.const !== undefined) return [JSON.stringify(schema.const)];
  if (schema.enum) return schema.enum.map((value) => JSON.stringify(value));
  return schema.type === 'boolean' ? ['true', 'false'] : [];
};

function wordsOf(alternatives: readonly Schema[]): string {
  const words = new Set(
    alternatives.map((schema) => {
      if (schema.const !== undefined) return JSON.stringify(schema.const);
      if (schema.enum) return schema.enum.map((value) => JSON.stringify(value)).join(', ');
      switch (schema.type) {
        case 'string':
          return 'text';
        case 'boolean':
          return 'true or false';
        case 'integer':
        case 'number':
          return rangeText(schema);
        case 'array':
          return 'a list';
        case 'object':
          return schema.properties ? 'an object' : 'named entries';
        default:
          return 'any value';
      }
    }),
  );
  return [...words].join(' or ');
}

const mostShown = 1_000_000;

function rangeText({ type, minimum, maximum }: Schema): string {
  const noun = type === 'integer' ? 'whole number' : 'number';
  const from = minimum === undefined || minimum < -mostShown ? undefined : minimum;
  const to = maximum === undefined || maximum > mostShown ? undefined : maximum;
  if (from !== undefined && to !== undefined) return `${noun}, ${from} to ${to}`;
  if (from !== undefined) return `${noun}, at least ${from}`;
  return to === undefined ? noun : `${noun}, at most ${to}`;
}
