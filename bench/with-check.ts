import { compare, type Scale } from './compare';
import { pause, startBoth } from './processes';

const lookEveryMs = 200;

/** Press to device byte while the whole demo show is checked, its rehearsals included, again and again. */
export async function measureWithCheck(scale: Scale): Promise<void> {
  const { bare, own, port, close } = await startBoth([], true);
  await compare(scale, 'Press to device byte, the whole rig idle', bare, own, 'press', { p50: 1.5, p99: 2 });
  const checking = keepChecking(`http://127.0.0.1:${port}`);
  await checking.begun;
  await compare(scale, 'Press to device byte, while the line check runs', bare, own, 'press', { p99: 2 });
  console.log(`\nMeanwhile ${await checking.stop()} proofs were made.`);
  await close();
}

function keepChecking(url: string) {
  let isOver = false;
  let proofs = 0;
  let begin: () => void = () => undefined;
  const begun = new Promise<void>((resolve) => (begin = resolve));
  const post = (path: string, body: object) =>
    fetch(`${url}/api/line-check/${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  const work = async () => {
    while (!isOver) {
      const answer = await post('run', { only: 'all', rehearse: true });
      if (answer.ok) begin();
      await pause(lookEveryMs);
    }
    await post('control', { do: 'cancel' });
    const { items } = (await (await fetch(`${url}/api/line-check`)).json()) as { items: { results: unknown[] }[] };
    proofs = items.reduce((all, { results }) => all + results.length, 0);
  };
  const worked = work();
  return {
    begun,
    stop: async (): Promise<number> => {
      isOver = true;
      await worked;
      return proofs;
    },
  };
}
