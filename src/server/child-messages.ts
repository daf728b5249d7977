import { existsSync, readFileSync } from 'node:fs';
import type { HealthResponse } from '../core/live';

/** What the supervisor and its children say to each other. */
export type ToChild =
  | {
      readonly type: 'processes';
      readonly processes: HealthResponse['processes'];
      readonly failures: HealthResponse['failures'];
    }
  | { readonly type: 'stop' }
  /** A spare takes over. */
  | { readonly type: 'begin' }
  /** Answered at once by a process that is well. */
  | { readonly type: 'ping' }
  /** What became of the stand-ins that were wanted, or not wanted any more; `why` says what kept them from starting. */
  | { readonly type: 'standins'; readonly on: boolean; readonly why?: string };
export type FromChild =
  | { readonly type: 'ready' }
  /** A spare has loaded everything and waits for `begin`. */
  | { readonly type: 'standing by' }
  | { readonly type: 'pong' }
  | { readonly type: 'fatal'; readonly message: string }
  /** The engine asks for the stand-ins of the demo, or for their end. */
  | { readonly type: 'want standins'; readonly on: boolean };

/** Settings of this start that the supervisor makes and hands to every child, by environment. */
export const childVariables = {
  token: 'SORRELFINCH_TOKEN',
  nextPort: 'SORRELFINCH_NEXT_PORT',
  controlPort: 'SORRELFINCH_CONTROL_PORT',
  proberPort: 'SORRELFINCH_PROBER_PORT',
  rehearsalPort: 'SORRELFINCH_REHEARSAL_PORT',
  picturesPort: 'SORRELFINCH_PICTURES_PORT',
  mode: 'SORRELFINCH_MODE',
  /** 1 for a spare: load, and wait. */
  spare: 'SORRELFINCH_SPARE',
  standinPages: 'SORRELFINCH_STANDIN_PAGES',
} as const;

/** A process whose parent is gone ends itself within this. */
const endsWithinMs = 4500;

/**
 * Makes a process a good child: says when it is ready, stops when it is told to, on a signal, and when its parent is
 * gone, so that no orphan is left behind even when the parent was killed.
 */
export function beChild(
  stop: () => Promise<void>,
  onMessage?: (message: ToChild) => void,
  /** Ends what is left of the others when the parent is gone: a process that hangs does not end by itself. */
  reaps = false,
): (message: FromChild) => void {
  let stopping = false;
  // The supervisor that reads it may have gone first; this process ends by itself then.
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
  const end = () => {
    if (stopping) return;
    stopping = true;
    const deadline = setTimeout(() => process.exit(1), 4000);
    stop()
      // It ends now in any case; what is left open ends with the process.
      .catch((error: unknown) => console.error(error))
      .finally(() => {
        clearTimeout(deadline);
        process.exit(0);
      });
  };
  let others: HealthResponse['processes'] = [];
  process.on('disconnect', () => {
    if (!reaps) return end();
    // Nobody is left to be told.
    void stop().catch(() => undefined);
    setTimeout(() => {
      for (const { pid } of others) if (pid !== undefined && pid !== process.pid) endOrphan(pid);
      process.exit(0);
    }, endsWithinMs);
  });
  process.on('SIGTERM', end);
  // Ctrl-C reaches the whole group; the supervisor decides the order.
  process.on('SIGINT', () => undefined);
  const tell = (message: FromChild) => void process.send?.(message, undefined, undefined, () => undefined);
  process.on('message', (message: ToChild) => {
    if (message.type === 'stop') return end();
    if (message.type === 'ping') return tell({ type: 'pong' });
    if (message.type === 'processes') others = message.processes;
    onMessage?.(message);
  });
  return tell;
}

/** Ends a process of ours that did not end by itself. Where the system can tell, one that only has its number now is left alone. */
function endOrphan(pid: number): void {
  try {
    const line = `/proc/${pid}/cmdline`;
    if (existsSync(line) && !readFileSync(line, 'utf8').includes('-main')) return;
    process.kill(pid, 'SIGKILL');
  } catch {
    // It has ended.
  }
}
