'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useMemo } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { z } from 'zod';
import type { DriverDocument } from '../../core/driver';
import { deviceFormProblems, type DeviceForm, type ShowRecord } from '../../core/show';
import { optionFaults } from './option-faults';
import { useDraft } from './use-draft';

/** What is typed: the form of a device, and its password, which is kept nowhere until it is saved. */
interface Typed {
  readonly device: DeviceForm;
  readonly password?: string | undefined;
}

/** What is wrong with each field, for those that were left or when all of it was sent. */
export type DeviceFormErrors = Partial<Record<'tag' | 'name' | 'port' | 'password', string>>;

const schemaOf = (records: readonly ShowRecord[], drivers: readonly DriverDocument[], self: string | undefined) =>
  z.custom<Typed>().superRefine(({ device, password }, context) => {
    const driver = drivers.find(({ id }) => id === device.driver);
    for (const [name, message] of Object.entries(driver ? optionFaults(driver, device.options) : {}))
      context.addIssue({ code: 'custom', path: ['device', 'options', name], message });
    for (const [field, message] of Object.entries(deviceFormProblems(device, records, self, password)))
      context.addIssue({ code: 'custom', path: field === 'password' ? ['password'] : ['device', field], message });
  });

interface Options {
  readonly records: readonly ShowRecord[];
  readonly drivers: readonly DriverDocument[];
  /** The device whose form it is, for one that is in the rig. */
  readonly self: string | undefined;
  readonly draft: string;
  readonly stamp: string;
  readonly initial: () => DeviceForm;
}

/** The form of a device: sent as a whole, checked by field when it is left, and kept in this window over a reload. */
export function useDeviceForm({ records, drivers, self, draft, stamp, initial }: Options) {
  const [kept, keep, forget] = useDraft(draft, stamp, initial);
  const resolver = useMemo(() => zodResolver(schemaOf(records, drivers, self)), [records, drivers, self]);
  const { control, setValue, trigger, handleSubmit, formState } = useForm<Typed>({
    defaultValues: { device: kept },
    resolver,
  });
  const { device = kept, password } = useWatch({ control }) as Partial<Typed>;
  const { errors, isSubmitted } = formState;
  const check = (field: 'device.tag' | 'device.name' | 'device.port' | 'password') => void trigger(field);
  const found: DeviceFormErrors = {
    ...withText('tag', errors.device?.tag?.message),
    ...withText('name', errors.device?.name?.message),
    ...withText('port', errors.device?.port?.message),
    ...withText('password', errors.password?.message),
  };
  return {
    form: device,
    password,
    errors: found,
    /** Checks a field that is left. */
    onLeave: (field: 'tag' | 'name' | 'port') => check(`device.${field}`),
    onForm: (next: DeviceForm) => {
      keep(next);
      setValue('device', next, { shouldDirty: true });
      // A fault that is shown goes as soon as it is mended; that a field is empty waits until it is left.
      for (const field of ['tag', 'name', 'port'] as const)
        if (isSubmitted || found[field] !== undefined || field === 'port' || (field === 'tag' && next.tag !== ''))
          check(`device.${field}`);
    },
    onPassword: (next: string | undefined) => {
      setValue('password', next);
      check('password');
    },
    /** Sends the whole when nothing is wrong; otherwise the first faulty field has the focus. */
    onSend: (send: (typed: Typed) => Promise<void>) =>
      handleSubmit(send, (_, event) => {
        const sent = event?.target as HTMLElement | undefined;
        // After the faults are drawn.
        setTimeout(() => sent?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus());
      }),
    forget,
  };
}

const withText = (field: keyof DeviceFormErrors, text: string | undefined): DeviceFormErrors =>
  text === undefined ? {} : { [field]: text };
