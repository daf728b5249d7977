'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { CaptureDevice, CaptureError, CaptureReading } from '../../core/capture';
import type { Result } from '../../core/result';
import type { DeskView } from '../../core/show';
import { documentOfRecord, useShow } from '../desk';
import { transportOf } from './transport';
import type { CaptureOrder } from './capture-worker';

/** A capture that is looked at instead of the live wire. */
export type Capture =
  | { readonly at: 'none' }
  | { readonly at: 'choosing'; readonly refusal?: string }
  | { readonly at: 'reading'; readonly name: string }
  | { readonly at: 'open'; readonly name: string; readonly reading: CaptureReading };

/** What a browser can hold twice. */
const mostBytes = 300_000_000;

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
  const worker = useRef<Worker>(undefined);
  const end = useCallback(() => {
    worker.current?.terminate();
    worker.current = undefined;
  }, []);
  useEffect(() => end, [end]);
  const open = (file: File) => {
    end();
    if (file.size > mostBytes) {
      setCapture({ at: 'choosing', refusal: `${file.name} is larger than 300 MB. Save a shorter part of it.` });
      return;
    }
    setCapture({ at: 'reading', name: file.name });
    const reader = new Worker(new URL('./capture-worker.ts', import.meta.url), { type: 'module' });
    worker.current = reader;
    const refuse = (message: string) => {
      end();
      setCapture({ at: 'choosing', refusal: `${file.name}: ${message}` });
    };
    reader.onmessage = ({ data }: MessageEvent<Result<CaptureReading, CaptureError>>) => {
      if (!data.ok) return refuse(data.error.message);
      end();
      setCapture({ at: 'open', name: file.name, reading: data.value });
    };
    reader.onerror = () => refuse('The file could not be read.');
    file.arrayBuffer().then(
      (bytes) => {
        const order: CaptureOrder = { file: bytes, devices: show ? captureDevices(show) : [] };
        if (worker.current === reader) reader.postMessage(order, [bytes]);
      },
      () => refuse('The file could not be read.'),
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
    if (record.kind !== 'device' || !document || document.link.kind === 'serial') return [];
    const transport = transportOf(document);
    const { host, port } = record.data;
    return [{ id: record.id, transport, host, port, framing: document.framing }];
  });
}
