import { troubleOf } from './judge';
import { troubles, type Trouble } from './troubles';
import type { Verdict } from './verdict';

/** How a whole test ended: `running` until it has. */
type TestResult = 'running' | 'passed' | 'doubtful' | 'failed';

export function resultOf(verdicts: readonly Verdict[], done: boolean): TestResult {
  if (!done) return 'running';
  if (verdicts.some(({ is }) => is === 'failed')) return 'failed';
  return verdicts.some(({ is }) => is === 'doubtful') ? 'doubtful' : 'passed';
}

/** The tests of several devices at a glance: how many ended how, and the devices that share a trouble together. */
interface TestSummary {
  readonly count: Readonly<Record<TestResult, number>>;
  /** What failed first, then what is worth a look, each with what most devices share first. */
  readonly troubles: readonly {
    readonly trouble: Trouble;
    readonly is: TestResult;
    readonly tags: readonly string[];
  }[];
}

export function summaryOf(
  tests: readonly { readonly tag: string; readonly verdicts: readonly Verdict[]; readonly done: boolean }[],
): TestSummary {
  const count = { running: 0, passed: 0, doubtful: 0, failed: 0 };
  const shared = new Map<string, { trouble: Trouble; is: TestResult; tags: string[] }>();
  for (const { tag, verdicts, done } of tests) {
    const is = resultOf(verdicts, done);
    count[is] += 1;
    const trouble = is === 'failed' || is === 'doubtful' ? troubleOf(verdicts) : undefined;
    if (trouble === undefined) continue;
    const known = shared.get(`${is} ${trouble}`);
    if (known) known.tags.push(tag);
    else shared.set(`${is} ${trouble}`, { trouble, is, tags: [tag] });
  }
  const list = [...shared.values()].sort(
    (a, b) => Number(b.is === 'failed') - Number(a.is === 'failed') || b.tags.length - a.tags.length,
  );
  return { count, troubles: list };
}

/** The summary in a sentence: `9 of 12 passed, 1 worth a look, 2 failed`. */
export function summaryText({ count }: TestSummary): string {
  const of = count.passed + count.doubtful + count.failed + count.running;
  return [
    `${count.passed} of ${of} passed`,
    count.doubtful > 0 && `${count.doubtful} worth a look`,
    count.failed > 0 && `${count.failed} failed`,
    count.running > 0 && `${count.running} still to come`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** A report of the tests as plain text, a device a line, to send to the network's administrator. */
export function reportText(
  tests: readonly { readonly tag: string; readonly name: string; readonly verdicts: readonly Verdict[] }[],
): string {
  return tests
    .map(({ tag, name, verdicts }) => {
      const trouble = troubleOf(verdicts);
      if (trouble === undefined) return `${tag}\t${name}\tpassed`;
      const seen = verdicts.find((each) => each.trouble === trouble)?.seen ?? '';
      const { title, tryNext } = troubles[trouble];
      return `${tag}\t${name}\t${title}\t${seen}\t${tryNext}`;
    })
    .join('\n');
}
