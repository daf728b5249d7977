import type { HealthResponse } from '../core/live';

/** What the supervisor and its children say to each other. */
export type ToChild =
  | { readonly type: 'processes'; readonly processes: HealthResponse['processes'] }
  | { readonly type: 'stop' }
  /** What became of the stand-ins that were wanted, or not wanted any more; `why` says what kept them from starting. */
  | { readonly type: 'standins'; readonly on: boolean; readonly why?: string };
export type FromChild =
  | { readonly type: 'ready' }
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
  mode: 'SORRELFINCH_MODE',
  standinPages: 'SORRELFINCH_STANDIN_PAGES',
} as const;

/**
 * Makes a process a good child: says when it is ready, stops when it is told to, on a signal, and when its parent is
 * gone, so that no orphan is left behind even when the parent was killed.
 */
export function beChild(
  stop: () => Promise<void>,
  onMessage?: (message: ToChild) => void,
): (message: FromChild) => void {
  let stopping = false;
  const end = () => {
    if (stopping) return;
    stopping = true;
    const deadline = setTimeout(() => process.exit(1), 4000);
    stop()
      .catch(() => undefined)
      .finally(() => {
        clearTimeout(deadline);
        process.exit(0);
      });
  };
  process.on('disconnect', end);
  process.on('SIGTERM', end);
  // Ctrl-C reaches the whole group; the supervisor decides the order.
  process.on('SIGINT', () => undefined);
  process.on('message', (message: ToChild) => (message.type === 'stop' ? end() : onMessage?.(message)));
  return (message) => void process.send?.(message);
}
