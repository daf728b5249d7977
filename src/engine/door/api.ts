import type { Listener } from '../../http';
import { httpApp } from '../../http';
import { apiRoutes } from './api-routes';
import type { ApiSource } from './api-source';
import type { Principal } from './gate';

const maxBodyBytes = 64 * 1024;

/** Answers `/api/*` and `/metrics`. */
export const apiOf = (source: ApiSource): Listener<Principal> =>
  httpApp<Principal>({
    routes: apiRoutes(source),
    maxBodyBytes,
    onFault: (cause, path) => source.log.error({ cause, path }, 'A request could not be answered.'),
    nothingAt: (path) => `There is nothing at ${path}. /api/openapi.json lists what there is.`,
  });
