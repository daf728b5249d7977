'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { CaptureDevice, CaptureReading } from '../../core/capture';
import { isLocalPort } from '../../core/net';
import type { DeskView } from '../../core/show';
import { documentOfRecord, useShow } from '../desk';
import { readCaptureFile } from '../parts';
import { transportOf } from './transport';

/** A capture that is looked at instead of the live wire. */
export type Capture =
  | { readonly at: 'none' }
  | { readonly at: 'choosing'; readonly refusal?: string }
  | { readonly at: 'reading'; readonly name: string }
  | { readonly at: 'open'; readonly name: string; readonly reading: CaptureReading };

export interface CaptureVerbs {
  readonly capture: Capture;
  readonly choose: () => void;
  readonly open: (file: File) => void;
  /** Back to the live wire; also ends reading. */
  readonly close: () => void;
}

export function useCapture(): CaptureVerbs {
  const { show } = useShow();
  const [capture, setCapture] = useState<Capture>({ at: 'none' });
  const ending = useRef<() => void>(undefined);
  const end = useCallback(() => {
    ending.current?.();
    ending.current = undefined;
  }, []);
  useEffect(() => end, [end]);
  const open = (file: File) => {
    end();
    setCapture({ at: 'reading', name: file.name });
    ending.current = readCaptureFile(
      file,
      show ? captureDevices(show) : [],
      (reading) => setCapture({ at: 'open', name: file.name, reading }),
      (refusal) => setCapture({ at: 'choosing', refusal }),
    );
  };
  return {
    capture,
    choose: () => setCapture({ at: 'choosing' }),
    open,
    close: () => {
      end();
      setCapture({ at: 'none' });
    },
  };
}

/** How the devices of a show are spoken to, by device. What hangs on a gateway is found in the gateway’s conversation. */
function captureDevices(show: DeskView): CaptureDevice[] {
  return show.records.flatMap((record) => {
    const document = record.kind === 'device' && record.data.host !== '' && documentOfRecord(show.drivers, record);
    if (record.kind !== 'device' || !document || isLocalPort(record.data.host)) return [];
    const transport = transportOf(document);
    const { host, port } = record.data;
    return [{ id: record.id, transport, host, port, framing: document.framing }];
  });
}
