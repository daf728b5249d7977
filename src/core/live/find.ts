import { z } from 'zod';

export const findRequestSchema = z.strictObject({
  range: z.string().min(1).max(100).describe('A subnet (10.0.0.0/24), a range (10.0.0.10-40) or one address.'),
  drivers: z.array(z.string().max(64)).max(200).optional().describe('Only devices of these drivers.'),
  ports: z
    .array(z.number().int().min(1).max(65_535))
    .max(20)
    .default([])
    .describe('TCP ports that are tried besides those of the drivers.'),
});

/** How sure it is that what was found is of a driver. */
export type Sureness = 'answered' | 'greeted' | 'port only';

export interface FoundDevice {
  readonly address: string;
  readonly port: number;
  readonly kind: 'tcp' | 'udp';
  /** Its announcement, if it made one. */
  readonly announced?: { readonly name: string; readonly service: string };
  /** Its hardware address, where that is known. */
  readonly mac?: string;
  readonly drivers: readonly {
    readonly id: string;
    readonly title: string;
    readonly role: string;
    readonly sure: Sureness;
  }[];
  /** What it looks like where no driver fits. */
  readonly like?: string;
  readonly model?: string;
  readonly firmware?: string;
  readonly serial?: string;
  /** The device of the rig that already has this address and port. */
  readonly inRig?: string;
  /** A device of the rig that is not reached where it was and may be this one; `certain` when its serial number is the same. */
  readonly moved?: { readonly device: string; readonly tag: string; readonly from: string; readonly certain: boolean };
}

/** One line of a search's answer. */
export type FindLine =
  | { readonly is: 'progress'; readonly tried: number; readonly of: number }
  | { readonly is: 'found'; readonly found: FoundDevice }
  | { readonly is: 'done' }
  | { readonly is: 'refused'; readonly message: string };
