import { z } from 'zod';
import type { Route } from './route';

interface About {
  readonly title: string;
  readonly version: string;
  readonly description: string;
  /** The schema of every refusal, by the name that it has in the document. */
  readonly error: { readonly name: string; readonly is: z.ZodType };
  /** Refusals of all routes, by status. */
  readonly refusals: Readonly<Record<string, string>>;
}

type Json = Readonly<Record<string, unknown>>;

/** The OpenAPI 3.1 document of an app, made from the routes that it answers by. */
export function openApiOf<Who>(
  routes: readonly Route<never, never, Who>[],
  { title, version, description, error, refusals }: About,
): Json {
  const schemas = new Map<string, { readonly is: z.ZodType; readonly io: 'input' | 'output' }>();
  const refTo = (name: string, is: z.ZodType, io: 'input' | 'output') => {
    schemas.set(name, { is, io });
    return { $ref: `#/components/schemas/${name}` };
  };
  const refused = (all: Readonly<Record<string, string>>) =>
    Object.fromEntries(
      Object.entries(all).map(([status, said]) => [
        status,
        { description: said, content: { 'application/json': { schema: refTo(error.name, error.is, 'output') } } },
      ]),
    );
  const operationOf = ({
    id,
    path,
    summary,
    body,
    query,
    answers,
    refusals: own = {},
  }: Route<never, never, Who>): Json => ({
    operationId: id,
    summary,
    ...parametersOf(path, query),
    ...(body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: refTo(body.name, body.is, 'input') } },
          },
        }
      : {}),
    responses: {
      '200': {
        description: answers.description,
        content: {
          [answers.type ?? 'application/json']: {
            schema: answers.schema
              ? refTo(answers.schema.name, answers.schema.is, 'output')
              : { type: answers.type === undefined ? 'object' : 'string' },
          },
        },
      },
      ...refused({ ...own, ...refusals }),
    },
  });
  const paths: Record<string, Record<string, unknown>> = {};
  for (const route of routes) {
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[route.method.toLowerCase()] = operationOf(route);
  }
  return {
    openapi: '3.1.0',
    info: { title, version, description },
    servers: [{ url: '/' }],
    security: [{}, { accessKey: [] }],
    paths,
    components: {
      securitySchemes: { accessKey: { type: 'http', scheme: 'bearer' } },
      schemas: Object.fromEntries([...schemas].map(([name, { is, io }]) => [name, schemaOf(is, io)])),
    },
  };
}

function schemaOf(schema: z.ZodType, io: 'input' | 'output'): Json {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io }) as Record<string, unknown>;
  return rest;
}

function parametersOf(path: string, query: z.ZodType | undefined): { readonly parameters?: readonly Json[] } {
  const { properties = {}, required = [] } = (query ? schemaOf(query, 'input') : {}) as {
    properties?: Readonly<Record<string, Json>>;
    required?: readonly string[];
  };
  const inPath = [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const inQuery = Object.entries(properties).map(([name, { description, ...schema }]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
    description,
  }));
  const parameters = [...inPath, ...inQuery];
  return parameters.length > 0 ? { parameters } : {};
}
