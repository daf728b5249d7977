import type { IncomingMessage } from 'node:http';
import type { z } from 'zod';

/** A request as a route gets it: its body and query have been checked. */
export interface Asked<Body, Query, Who> {
  readonly body: Body;
  readonly query: Query;
  /** The values of the `:names` in its path. */
  readonly params: Readonly<Record<string, string | undefined>>;
  /** Who asks, where the app tells them apart. */
  readonly who: Who;
  readonly incoming: IncomingMessage;
}

/** What a route answers, for the document of the interface. */
interface Answers {
  readonly description: string;
  /** Of JSON, its schema by the name that it has in the document. */
  readonly schema?: { readonly name: string; readonly is: z.ZodType };
  /** JSON when absent. */
  readonly type?: string;
}

/** One thing that can be asked over HTTP. Routing, checks and the OpenAPI document are all made from it. */
export interface Route<Body = unknown, Query = unknown, Who = unknown> {
  readonly method: 'GET' | 'POST' | 'DELETE' | 'OPTIONS';
  readonly path: string;
  /** What it is called in the document. */
  readonly id: string;
  readonly summary: string;
  readonly body?: { readonly name: string; readonly is: z.ZodType<Body> };
  readonly query?: z.ZodType<Query>;
  readonly answers: Answers;
  /** Refusals of its own, by status. */
  readonly refusals?: Readonly<Record<string, string>>;
  /** Returns a `Response`, or what is sent as JSON; `undefined` is answered without a body. Throws an `HttpError` to refuse. */
  readonly handle: (asked: Asked<Body, Query, Who>) => unknown;
}

/** Lets the types of body and query follow from their schemas. */
export const routeFor =
  <Who>() =>
  <Body, Query>(route: Route<Body, Query, Who>): Route<never, never, Who> =>
    // What `handle` is given was checked with the schemas beside it.
    route as unknown as Route<never, never, Who>;
