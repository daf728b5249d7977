import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { fail, ok, type Result } from '../core/result';
import type { EditError } from '../core/show';
import type { ShowDb } from './open';
import { drivers, secrets } from './show-schema';

/** What changes together with an edit and is no record: installed drivers and sealed passwords. `null` is none. */
export interface Beside {
  readonly drivers: readonly { readonly id: string; readonly json: string | null }[];
  readonly secrets: readonly { readonly device: string; readonly sealed: string | null }[];
}

const changeSchema = z.object({ id: z.string(), before: z.string().nullable(), after: z.string().nullable() });
const changesSchema = z.object({ drivers: z.array(changeSchema), secrets: z.array(changeSchema) });

/** The same with what there was before, so that it can be taken back. Passwords are in it sealed, as they are stored. */
type BesideChanges = z.infer<typeof changesSchema>;

/** Writes it, inside a transaction of the caller, and returns the text that is kept for undo. */
export function writeBeside(tx: ShowDb, beside: Beside, now: number): string | null {
  const changes: BesideChanges = {
    drivers: beside.drivers.map(({ id, json }) => ({ id, before: driverNow(tx, id), after: json })),
    secrets: beside.secrets.map(({ device, sealed }) => ({ id: device, before: secretNow(tx, device), after: sealed })),
  };
  put(tx, changes, now);
  return changes.drivers.length + changes.secrets.length === 0 ? null : JSON.stringify(changes);
}

/** Takes it back, or does it again: whatever it is now has to be what it became then. Returns the text for the other way. */
export function turnBeside(tx: ShowDb, kept: string | null, now: number): Result<string | null, EditError> {
  if (kept === null) return ok(null);
  const changes = changesSchema.parse(JSON.parse(kept));
  for (const { id, after } of changes.drivers)
    if (driverNow(tx, id) !== after)
      return fail({ code: 'changed-meanwhile', id, message: `The driver “${id}” was replaced meanwhile.` });
  const back = ({ id, before, after }: z.infer<typeof changeSchema>) => ({ id, before: after, after: before });
  const turned = {
    drivers: changes.drivers.map(back),
    // A password that was typed anew since is the newer one and stays.
    secrets: changes.secrets.filter(({ id, after }) => secretNow(tx, id) === after).map(back),
  };
  put(tx, turned, now);
  return ok(JSON.stringify(turned));
}

function put(tx: ShowDb, changes: BesideChanges, now: number): void {
  for (const { id, after } of changes.drivers) {
    if (after === null) tx.delete(drivers).where(eq(drivers.id, id)).run();
    else {
      const row = { json: after, at: now };
      tx.insert(drivers)
        .values({ id, ...row })
        .onConflictDoUpdate({ target: drivers.id, set: row })
        .run();
    }
  }
  for (const { id: device, after: sealed } of changes.secrets) {
    if (sealed === null) tx.delete(secrets).where(eq(secrets.device, device)).run();
    else
      tx.insert(secrets)
        .values({ device, sealed })
        .onConflictDoUpdate({ target: secrets.device, set: { sealed } })
        .run();
  }
}

const driverNow = (tx: ShowDb, id: string): string | null =>
  tx.select({ json: drivers.json }).from(drivers).where(eq(drivers.id, id)).get()?.json ?? null;

const secretNow = (tx: ShowDb, device: string): string | null =>
  tx.select({ sealed: secrets.sealed }).from(secrets).where(eq(secrets.device, device)).get()?.sealed ?? null;
