import { stageNames, stageTitles, type StageName } from './judge';
import type { Verdict } from './verdict';

type Found = readonly { readonly stage: StageName; readonly verdict: Verdict }[];

/**
 * What sets a connection that fails apart from one of the same kind that is well, in a sentence: up to where they are alike is
 * not where the fault is. `undefined` when the first one does not fail.
 */
export function besideText(bad: Found, good: { readonly tag: string; readonly found: Found }): string | undefined {
  const failed = bad.find(({ verdict }) => verdict.is === 'failed');
  if (!failed) return undefined;
  const alike = stageNames
    .slice(0, stageNames.indexOf(failed.stage))
    .filter((stage) => good.found.some((each) => each.stage === stage && each.verdict.is !== 'failed'));
  const there = good.found.find(({ stage }) => stage === failed.stage);
  if (!there || there.verdict.is === 'failed') return undefined;
  const same = alike.map((stage) => stageTitles[stage].toLowerCase());
  const list = same.length < 2 ? same.join('') : `${same.slice(0, -1).join(', ')} and ${same.at(-1) ?? ''}`;
  const upTo =
    list === ''
      ? 'They differ from the first stage on'
      : `${list.charAt(0).toUpperCase()}${list.slice(1)} are as with ${good.tag}, which is well`;
  return `${upTo}; what differs is ${stageTitles[failed.stage].toLowerCase()}. There it says: ${there.verdict.seen}`;
}
