import type { Scalar } from '../../core/result';

const words: Readonly<Record<string, string>> = {
  waiting: 'Only in service',
  spent: 'Already fired',
  stopped: 'Stopped',
};

/** What keeps a watch that is switched on from firing; nothing while nothing does. */
export function WatchRemark({ state }: { readonly state: Scalar | undefined }) {
  const word = words[String(state)];
  if (word === undefined) return null;
  return <span className={state === 'stopped' ? 'border-l-4 border-warning pl-2 font-semibold' : 'pl-3'}>{word}</span>;
}
