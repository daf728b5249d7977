import { expect, it } from 'vitest';
import { standinTags, startFleet } from '../src/standins';
import { onTestFinished } from './support/rig';

it('every stand-in has a page whose script is sound, a state, and an answer to what it does not know', async () => {
  const fleet = await startFleet({ host: '127.0.0.1', portBase: 0 });
  onTestFinished(() => fleet.stop());
  const base = `http://127.0.0.1:${fleet.pagePort}`;
  const index = await (await fetch(base)).text();
  for (const tag of standinTags) {
    const at = `${base}/${tag.toLowerCase()}`;
    expect(index).toContain(`/${tag.toLowerCase()}"`);
    const html = await (await fetch(at)).text();
    const script = /<script>([\s\S]*)<\/script>/.exec(html)?.[1] ?? '';
    // Compiled, not run: a page that does not even compile shows nothing.
    expect(() => new Function(script), tag).not.toThrow();
    expect(await (await fetch(`${at}/state`)).json()).toMatchObject({ power: true, faults: { refuse: false } });
    const wrong = await fetch(`${at}/operate`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"verb":"fly"}',
    });
    expect([tag, wrong.status]).toEqual([tag, 400]);
  }
  for (const tag of ['c1', 't1']) {
    const still = await fetch(`${base}/${tag}/still`);
    expect(still.headers.get('content-type')).toBe('image/svg+xml');
    expect(await still.text()).toMatch(/^<svg /);
  }
});

it('stand-ins start alone, on chosen ports', async () => {
  const fleet = await startFleet({ host: '127.0.0.1', portBase: 0, only: ['S1'] });
  onTestFinished(() => fleet.stop());
  expect([...fleet.devices.keys()].sort()).toEqual(['G1', 'S1']);
  const port = fleet.devices.get('G1')?.port ?? 0;
  await fleet.stop();
  const again = await startFleet({ host: '127.0.0.1', portBase: 0, only: ['R1'], ports: { R1: port } });
  onTestFinished(() => again.stop());
  expect(again.devices.get('R1')?.port).toBe(port);
});
