import { canonicalJson } from '../show';
import type { PastCall, PastReport, ReplayStep } from './plan';

/** What came of a step when it was played again. */
export interface Played {
  /** The outcome of the press; left out where it could not be made. */
  readonly outcome?: string;
  readonly reason?: string;
  readonly calls: readonly Pick<PastCall, 'device' | 'command' | 'params' | 'says' | 'outcome'>[];
  /** Of what was reported then: what was not reported now, with what was so instead. */
  readonly missing: readonly { readonly report: PastReport; readonly now: string }[];
}

interface Compared {
  readonly step: ReplayStep;
  /** In sentences; none where all went as it did then. */
  readonly differences: readonly string[];
  /** Devices for which nothing stands in: what they did is not compared. */
  readonly unmatched: readonly string[];
}

const keyOf = ({ device, command, params }: Pick<PastCall, 'device' | 'command' | 'params'>): string =>
  `${device} ${command} ${canonicalJson(params)}`;

/** Sets what came of a step against what came of it then. */
export function comparePlayed(step: ReplayStep, played: Played, canStandIn: (device: string) => boolean): Compared {
  const differences: string[] = [];
  const then = step.calls.filter(({ device }) => canStandIn(device));
  const now = played.calls.filter(({ device }) => canStandIn(device));
  const isWhole = then.length === step.calls.length && now.length === played.calls.length;
  if (played.outcome === undefined) differences.push(played.reason ?? 'It could not be pressed.');
  else if (isWhole && played.outcome !== step.outcome && then.length > 0)
    differences.push(`It ended as ${step.outcome} then, and as ${played.outcome} now.`);
  const left = [...now];
  for (const call of then) {
    const at = left.findIndex((each) => keyOf(each) === keyOf(call));
    if (at === -1) {
      differences.push(`Not sent now: ${call.device}: ${call.says}.`);
      continue;
    }
    const [same] = left.splice(at, 1);
    if (same && same.outcome !== call.outcome && then.length > 1)
      differences.push(`${call.device}: ${call.says}: ${call.outcome} then, ${same.outcome} now.`);
  }
  for (const call of left) differences.push(`Not sent then: ${call.device}: ${call.says}.`);
  for (const { report, now: is } of played.missing)
    if (canStandIn(report.device)) differences.push(`Reported then: ${report.says}. Now: ${is}.`);
  const unmatched = [...new Set(step.calls.map(({ device }) => device))].filter((device) => !canStandIn(device));
  return { step, differences, unmatched };
}
