import { z } from 'zod';
import type { DeviceRecord, Edit } from '../show';
import type { Mend } from './verdict';

/** A mend as it is kept with a result. */
export const mendSchema: z.ZodType<Mend> = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('port'), port: z.number() }),
  z.strictObject({ do: z.literal('driver'), driver: z.string(), title: z.string() }),
  z.strictObject({
    do: z.literal('option'),
    name: z.string(),
    title: z.string(),
    value: z.union([z.string(), z.number()]),
  }),
  z.strictObject({ do: z.literal('enable') }),
  z.strictObject({ do: z.literal('interrupt') }),
  z.strictObject({ do: z.literal('find') }),
]);

/** The edit of a device that carries a mend out; `undefined` for one that is no edit. */
export function mendEdit(device: DeviceRecord, mend: Mend): Edit | undefined {
  const { data } = device;
  const update = (title: string, change: Partial<DeviceRecord['data']>): Edit => ({
    title,
    changes: [{ op: 'update', from: device, to: { ...device, data: { ...data, ...change } } }],
  });
  switch (mend.do) {
    case 'port':
      return update(`${data.tag}: port ${mend.port}`, { port: mend.port });
    case 'driver':
      return update(`${data.tag}: another driver`, { driver: mend.driver, options: {} });
    case 'option':
      return update(`${data.tag}: ${mend.title}`, { options: { ...data.options, [mend.name]: mend.value } });
    case 'enable':
      return update(`Switch ${data.tag} on`, { enabled: true });
    case 'interrupt':
    case 'find':
      return undefined;
  }
}
