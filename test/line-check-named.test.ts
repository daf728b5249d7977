import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CheckItemView, LineCheckView } from '../src/core/live';
import type { LineCheck } from '../src/engine/line-check/line-check';
import type { StandinTag } from '../src/standins';
import { startDemoRig, type DemoRig } from './support/demo-rig';
import { runAsOne, TestClient, until } from './support/rig';
import { paced } from './support/pace';

/** Each fault of the stand-ins, found by the line check at the connection of its device, and called what it is. */
let demo: DemoRig;
let desk: TestClient;
let end: () => Promise<void>;

const view = () => desk.topic('line-check') as LineCheckView;
const idOf = (tag: string) => demo.rig.engine.api.deviceByTag(tag)?.id ?? '';

function check(): LineCheck {
  const { lineCheck } = demo.rig.engine.api;
  if (!lineCheck) throw new Error('There is no line check.');
  return lineCheck;
}

/** What the check says of the connection of each device: its state, and the trouble where there is one. */
async function checked(tags: readonly StandinTag[]): Promise<Record<string, string>> {
  const items = tags.map((tag) => `connection:${idOf(tag)}`);
  const at = Date.now();
  expect(await check().begin({ only: 'all', rehearse: false, putBack: [], items }, 'test')).toBeUndefined();
  const resultOf = (id: string) => {
    const item: CheckItemView | undefined = view().items[id];
    return item?.results.find((result) => result.by === 'test' && result.at >= at);
  };
  await until(
    () => items.every((id) => resultOf(id) !== undefined) && view().run === null,
    (isOver) => isOver,
    90_000,
  );
  return Object.fromEntries(
    tags.map((tag, n) => {
      const result = resultOf(items[n] ?? '');
      return [tag, `${result?.state ?? '?'}${result?.trouble ? ` ${result.trouble}` : ''}`];
    }),
  );
}

beforeAll(async () => {
  [, end] = await runAsOne(async () => {
    demo = await startDemoRig();
    desk = await TestClient.open(demo.rig.url);
    for (const topic of ['line-check', 'status']) await desk.follow(topic);
  });
});
afterAll(() => end());

const calm = { refuse: false, hang: false, garbage: false, otherPassword: false, otherModel: false, taken: false };

const everyOne: readonly StandinTag[] = ['SW1', 'C1', 'C4', 'E1', 'R1', 'A1', 'T1', 'G1', 'D1'];

describe('a fault of a stand-in', () => {
  it.each<[string, object, RegExp, readonly StandinTag[]]>([
    ['no service', { refuse: true }, /^failed port-refused$/, everyOne],
    ['no answer', { hang: true }, /^failed mute$/, everyOne],
    // Where a datagram comes too late it counts as lost.
    ['slow', { delayMs: 300 }, /^doubtful (slow|lossy)$/, everyOne],
    // A line that never ends is no line: a device that speaks in lines has said nothing then.
    ['nonsense', { garbage: true }, /^failed (garbage|mute)$/, everyOne],
    ['another password', { otherPassword: true }, /^failed wrong-password$/, ['E1', 'D1']],
    ['another model', { otherModel: true }, /^(failed|doubtful) wrong-model$/, ['SW1', 'E1', 'R1', 'A1', 'T1', 'G1']],
    // The gateway hangs up without a word when it has a controller.
    ['another controller', { taken: true }, /^failed (occupied|hangs-up)$/, everyOne.filter((tag) => tag !== 'D1')],
  ])(
    'is found and named: %s',
    async (_, fault, named, tags) => {
      for (const tag of tags) await demo.operate(tag, 'faults', fault);
      // The live connections take this long to notice, at the most; a check before that would ask over them.
      await new Promise((resolve) => setTimeout(resolve, 3000));
      const found = await checked(tags);
      for (const tag of tags) await demo.operate(tag, 'faults', { ...calm, delayMs: 0, lossPercent: 0 });
      for (const tag of tags) desk.say({ t: 'call', device: idOf(tag) });
      await until(
        () =>
          demo.rig.engine.api
            .health()
            .links.filter(({ tag, link }) => tags.includes(tag as StandinTag) && link.word !== 'up').length,
        (bad) => bad === 0,
        30_000,
      );
      expect(Object.entries(found).filter(([, said]) => !named.test(said))).toEqual([]);
    },
    paced(150_000),
  );
});
