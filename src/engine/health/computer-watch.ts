import { availableParallelism, cpus, freemem, totalmem } from 'node:os';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { readFileSync } from 'node:fs';
import type { ComputerFacts } from '../../core/health';

const resolutionMs = 10;
/** The load is that of about this time. */
const loadOverMs = 30_000;

interface Used {
  readonly at: number;
  readonly busy: number;
  readonly all: number;
}

/** How hard this computer works, and how late the engine is on it. */
export class ComputerWatch {
  private readonly delay = monitorEventLoopDelay({ resolution: resolutionMs });
  private used: readonly Used[] = [usedNow()];

  start(): void {
    this.delay.enable();
  }

  stop(): void {
    this.delay.disable();
  }

  /** Since the last look, or over half a minute for the load. */
  look(): ComputerFacts {
    const now = usedNow();
    const first = this.used[0] ?? now;
    this.used = [...this.used.filter(({ at }) => at > now.at - loadOverMs), now];
    const all = now.all - first.all;
    const late = this.delay.percentile(99) / 1e6;
    this.delay.reset();
    return {
      load: all > 0 ? Math.min(1, Math.max(0, (now.busy - first.busy) / all)) : 0,
      // The figure counts from one measurement to the next, of which the resolution is meant.
      lateMs: Number.isFinite(late) ? Math.max(0, late - resolutionMs) : 0,
      free: freeNow() / totalmem(),
    };
  }
}

function usedNow(): Used {
  let idle = 0;
  let all = 0;
  for (const { times } of cpus().slice(0, Math.max(1, availableParallelism()))) {
    idle += times.idle;
    all += times.user + times.nice + times.sys + times.irq + times.idle;
  }
  return { at: Date.now(), busy: all - idle, all };
}

/** Memory that programs can have. On Linux the system counts what it keeps of files as used, and gives it back when it is needed. */
function freeNow(): number {
  try {
    const kib = /^MemAvailable:\s+(\d+) kB/m.exec(readFileSync('/proc/meminfo', 'utf8'))?.[1];
    if (kib !== undefined) return Number(kib) * 1024;
  } catch {
    // There is no such file on other systems.
  }
  return freemem();
}
