import { judgeRoundTrip, type Verdict } from '../../core/diagnosis';
import type { DeviceSession } from '../devices/device-session';

const questions = 20;
const longestMs = 6000;

/** Times questions that change nothing, one after the other. */
export async function timeRoundTrips(
  session: DeviceSession | undefined,
  through: boolean,
  signal: AbortSignal,
): Promise<Verdict> {
  const times: number[] = [];
  let lost = 0;
  const brokenBefore = session?.counts.unreadable ?? 0;
  const until = performance.now() + longestMs;
  if (!session?.hasQuestion)
    return judgeRoundTrip({ times, lost, unreadable: 0, refusal: undefined, through, possible: false });
  for (let n = 0; n < questions && performance.now() < until && !signal.aborted; n += 1) {
    const asked = await new Promise<number | undefined | 'cut off'>((resolve) => {
      if (!session.timeQuestion(resolve)) resolve('cut off');
    });
    if (typeof asked === 'number') times.push(asked);
    else lost += 1;
    // A connection that broke meanwhile, even before the first question, has lost the rest.
    if (asked === 'cut off') break;
  }
  const all = session.counts.unreadable;
  // Where nothing was answered, a frame that was broken before may have swallowed the rest.
  const unreadable = times.length === 0 ? all : Math.max(0, all - brokenBefore);
  const { refusal } = session.counts;
  return judgeRoundTrip({ times, lost, unreadable, refusal, through, possible: true });
}
