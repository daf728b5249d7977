import { z } from 'zod';
import { bindingDataSchema, idSchema, type BindingData } from '../show';
import { presetChangeSchema } from './presets';
import { snapshotChangeSchema } from './snapshots';

/** What a screen does with what its hand gear is bound to. */
export const bindingChangeSchema = z.discriminatedUnion('do', [
  /** An input works one control only: it takes the place of what the input did on this panel before. */
  z.strictObject({ do: z.literal('put'), binding: bindingDataSchema }),
  z.strictObject({ do: z.literal('remove'), id: idSchema }),
]);
export type BindingChange = z.infer<typeof bindingChangeSchema>;

/** A change of a record that takes effect at once. The engine sends it to Next.js, which writes the show. */
export const liveChangeSchema = z.union([
  z.strictObject({ preset: presetChangeSchema }),
  z.strictObject({ binding: bindingChangeSchema }),
  z.strictObject({ snapshot: snapshotChangeSchema }),
]);
export type LiveChange = z.infer<typeof liveChangeSchema>;

/** Topic `gear`: what hand gear is bound to, on all panels. */
export interface GearBindings {
  readonly bindings: readonly (BindingData & { readonly id: string })[];
}
