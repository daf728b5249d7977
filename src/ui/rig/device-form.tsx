'use client';

import { useEffect, useRef } from 'react';
import type { StageName } from '../../core/diagnosis';
import type { TestCandidate } from '../../core/live';
import { cleanAddress } from '../../core/net';
import type { DeskView, DeviceForm } from '../../core/show';

import { DeviceFields } from './device-fields';
import { TestPane } from './test-pane';
import type { DeviceFormErrors } from './use-device-form';
import { canCompare, UnusedTest } from './unused-test';
import { useTests } from './use-test';
import { Button } from '../kit';
import type { Mend } from '../../core/diagnosis';

interface Props {
  readonly show: DeskView;
  readonly form: DeviceForm;
  readonly password: string | undefined;
  readonly errors: DeviceFormErrors;
  /** The device whose entry it is, for one that is in the rig. */
  readonly self: string | undefined;
  readonly onLeave: (field: 'tag' | 'name' | 'port') => void;
  readonly onForm: (form: DeviceForm) => void;
  readonly onPassword: (password: string | undefined) => void;
  readonly onFind: () => void;
}

/** The pause in typing after which the address is tried, no further than the open port. */
const pauseMs = 700;

/** The fields of a device with the address tried while it is typed: as far as the port by itself, all the way on Enter. */
export function TriedDeviceForm({ show, form, password, errors, self, onLeave, onForm, onPassword, onFind }: Props) {
  const { tests, failed, run, stop } = useTests();
  const id = self ?? '';
  const test = tests.get(id);
  const clean = cleanAddress(form.host);
  const host = clean.ok ? clean.value.host : '';
  const port = (clean.ok ? clean.value.port : undefined) ?? form.port;
  const candidate: TestCandidate = {
    ...(self === undefined ? {} : { id: self }),
    driver: form.driver,
    host,
    port,
    user: form.user,
    options: form.options,
    ...(password === undefined ? {} : { password }),
    ...(form.through === '' ? {} : { through: form.through }),
  };
  const ready = form.driver !== '' && (host !== '' || form.through !== '') && port >= 1 && port <= 65_535;
  const what = `${form.driver} ${host} ${port} ${form.through}`;
  const triedFirst = useRef(what);
  const pause = useRef<ReturnType<typeof setTimeout>>(undefined);
  const begin = useRef<(last: StageName, interrupt?: boolean) => void>(() => undefined);
  useEffect(() => {
    begin.current = (last, interrupt = false) => {
      // A test that was asked for is not cut short by the one that comes after a pause.
      clearTimeout(pause.current);
      void run({ candidate, last, interrupt }, [id]);
    };
  });
  useEffect(() => {
    // The address with which the form opens has been tried already.
    if (!ready || what === triedFirst.current) return undefined;
    pause.current = setTimeout(() => begin.current('port'), pauseMs);
    return () => {
      clearTimeout(pause.current);
      stop();
    };
  }, [ready, what, stop]);
  const mend = (each: Mend) => {
    if (each.do === 'port') onForm({ ...form, port: each.port });
    else if (each.do === 'driver') onForm({ ...form, driver: each.driver, options: {} });
    else if (each.do === 'option') onForm({ ...form, options: { ...form.options, [each.name]: each.value } });
    else if (each.do === 'interrupt') begin.current('reports', true);
    else if (each.do === 'enable') onForm({ ...form, enabled: true });
    else onFind();
  };
  return (
    <>
      <DeviceFields
        show={show}
        form={form}
        password={password}
        hasPassword={self !== undefined && show.withPassword.includes(self)}
        errors={errors}
        self={self}
        onLeave={onLeave}
        onForm={onForm}
        onPassword={onPassword}
        onEnter={() => begin.current('reports')}
      />
      <div className="col-span-full">
        <Button disabled={!ready} onClick={() => begin.current('reports')}>
          Test connection
        </Button>
        <span className="ml-3 text-[14px] text-ink-soft">
          {test ? says(test.says) : 'Press Enter in the address to test protocol and sign-in too. Nothing is saved.'}
        </span>
        {failed && <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{failed}</p>}
        {test && <TestPane test={test} onMend={mend} />}
        {test?.done && canCompare(show, form.driver, form.through) && <UnusedTest candidate={candidate} />}
      </div>
    </>
  );
}

function says(told: { readonly model?: string; readonly firmware?: string } | undefined): string {
  const parts = [told?.model && `model ${told.model}`, told?.firmware && `firmware ${told.firmware}`].filter(Boolean);
  return parts.length > 0 ? `It says: ${parts.join(', ')}.` : '';
}
