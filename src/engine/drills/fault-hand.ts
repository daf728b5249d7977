import type { DrillFault } from '../../core/show';

const answerWithinMs = 5000;
/** A device that is slow in a drill takes so long for everything it says. */
const slowMs = 600;

const on: Readonly<Partial<Record<DrillFault, readonly [verb: string, body: object]>>> = {
  off: ['power', { on: false }],
  slow: ['faults', { delayMs: slowMs }],
  silent: ['faults', { hang: true }],
  password: ['faults', { otherPassword: true }],
  taken: ['faults', { taken: true }],
};
const off: Readonly<Partial<Record<DrillFault, readonly [verb: string, body: object]>>> = {
  off: ['power', { on: true }],
  slow: ['faults', { delayMs: 0 }],
  silent: ['faults', { hang: false }],
  password: ['faults', { otherPassword: false }],
  taken: ['faults', { taken: false }],
};

/** Switches a fault of a stand-in on or off, over the page on which it is operated by hand. Resolves with why not, if so. */
export async function setFault(
  pages: string | null,
  tag: string,
  fault: DrillFault,
  isOn: boolean,
): Promise<string | undefined> {
  const act = (isOn ? on : off)[fault];
  if (pages === null || !act) return 'No stand-ins are running.';
  const [verb, body] = act;
  try {
    const answer = await fetch(`${pages}/${tag.toLowerCase()}/${verb}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(answerWithinMs),
    });
    if (answer.ok) return undefined;
    return answer.status === 404
      ? 'Nothing stands in for this device.'
      : `Its stand-in answered with ${answer.status}.`;
  } catch {
    return 'Its stand-in does not answer.';
  }
}
