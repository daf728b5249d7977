import { describe, expect, it } from 'vitest';
import type { ScreensView } from '../src/core/live';
import { startFleetRig } from './support/fleet';
import { TestClient, until } from './support/rig';

/** Panels over real sockets: what the desk sees of them, and what becomes of those that misbehave. */

const here = (title: string) => ({ t: 'here', title, page: 'page-a', delayMs: 3, cuts: 0, missed: 0 });

describe('screens', () => {
  it('are seen by the desk with what they say of themselves, told what to do, and gone when they are', async () => {
    const f = await startFleetRig(['SW1']);
    const panel = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    await f.client.follow('screens');
    panel.say(here('Tablet left'));
    const screens = () => Object.entries((f.client.topic('screens') ?? {}) as ScreensView);
    await until(screens, (all) => all.some(([, { title }]) => title === 'Tablet left'));
    const [name = ''] = screens().find(([, { title }]) => title === 'Tablet left') ?? [];
    f.client.say({ t: 'tell', to: name, act: { do: 'note', text: 'Two minutes' } });
    const told = await panel.next((message) => message.t === 'do');
    expect(told).toMatchObject({ act: { do: 'note', text: 'Two minutes' } });
    panel.say({ t: 'seen', note: (told as { act: { id: string } }).act.id });
    await until(screens, (all) => all.some(([, { note }]) => note?.seen === true));
    // A panel tells nobody anything.
    panel.say({ t: 'tell', to: name, act: { do: 'close' } });
    expect(await panel.next((message) => message.t === 'error')).toMatchObject({
      message: expect.stringContaining('Only the desk'),
    });
    panel.close();
    await until(screens, (all) => !all.some(([each]) => each === name));
  });

  it('that say too much too fast are answered with an error and then closed, with the rest untouched', async () => {
    const f = await startFleetRig(['SW1']);
    await f.linkIs('SW1', 'up');
    const flood = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    const { closed } = flood;
    for (let n = 0; n < 8000; n += 1) flood.say({ t: 'ping' });
    expect(await closed).toBe(1008);
    expect(flood.got.some((message) => message.t === 'error' && message.message.startsWith('Too many'))).toBe(true);
    expect(await f.send('SW1', 'take', { input: 3 })).toMatchObject({ outcome: 'confirmed' });
  });

  it('that say nonsense are told where, and closed when they go on', async () => {
    const f = await startFleetRig(['SW1']);
    const odd = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    const { closed } = odd;
    odd.sayRaw('{"t":"here","title":7,"cuts":0,"missed":0}');
    expect(await odd.next((message) => message.t === 'error')).toMatchObject({
      message: expect.stringMatching(/^title/),
    });
    for (let n = 0; n < 30; n += 1) odd.sayRaw('{"t":');
    expect(await closed).toBe(1008);
    expect(await f.rig.engine.api.health()).toMatchObject({ links: [{ tag: 'SW1' }] });
  });
});
