import 'server-only';
import { headers } from 'next/headers';
import { childVariables } from '../../server/child-messages';
import { principalHeader, readPrincipal } from '../../server/principal-header';

/** True when the front door says that this request is from the desk. Nobody else may edit. */
export const isDesk = (): Promise<boolean> => isFrom('desk');

/** True when the request is from the engine of this start itself. */
export const isEngine = (): Promise<boolean> => isFrom('engine');

async function isFrom(kind: string): Promise<boolean> {
  const token = process.env[childVariables.token];
  const given = (await headers()).get(principalHeader);
  return token !== undefined && readPrincipal(given, token) === kind;
}
