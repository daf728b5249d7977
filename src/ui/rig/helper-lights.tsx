import { X } from 'lucide-react';
import type { HelperStatus } from '../../core/live';

interface Props {
  readonly helpers: readonly HelperStatus[] | undefined;
  /** With their names beside them. */
  readonly isNamed?: boolean;
}

/** A light for each program that a device needs beside itself: filled while it runs, a cross when its port does not open. */
export function HelperLights({ helpers = [], isNamed = false }: Props) {
  if (helpers.length === 0) return null;
  return (
    <ul className="inline-flex flex-wrap gap-x-2 gap-y-1" aria-label="Helper programs">
      {helpers.map(({ title, port, isRunning }) => {
        const says = `${title}: ${isRunning ? 'running' : 'not running'}`;
        return (
          <li key={`${title} ${port}`} className="inline-flex items-center gap-1.5" title={`${says} (port ${port})`}>
            <i
              className={`inline-block size-3.5 rounded-full border text-center ${isRunning ? 'border-ink-soft bg-ink-soft' : 'border-rule-strong bg-fault text-fault-ink'}`}
              aria-hidden
            >
              {!isRunning && <X size={12} strokeWidth={4} />}
            </i>
            <span className={isNamed ? 'text-[14px] text-ink-soft' : 'sr-only'}>{says}</span>
          </li>
        );
      })}
    </ul>
  );
}
