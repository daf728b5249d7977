import { beChild } from '../src/server/child-messages';
import { readSettings } from '../src/server/settings';
import { standinTags, startFleet } from '../src/standins';
import type { FromHost, ToHost } from './host-messages';

/** One set of stand-ins after another in one process, each as it is at its start. */
const settings = readSettings(process.env);
if (!settings.ok) throw new Error(settings.error.map((problem) => problem.message).join(' '));
const { standinPortBase } = settings.value;
let stop = (): Promise<void> => Promise.resolve();
const tell = beChild(
  () => stop(),
  (message) => {
    if (message.type === 'begin') void begin();
  },
);
process.on('message', (message: ToHost) => {
  if (message.type === 'end') void end();
});
tell({ type: 'standing by' });

async function begin(): Promise<void> {
  try {
    ({ stop } = await startFleet({ host: '127.0.0.1', portBase: standinPortBase, only: standinTags, ports: {} }));
    tell({ type: 'ready' });
  } catch (error) {
    tell({ type: 'fatal', message: String(error) });
  }
}

async function end(): Promise<void> {
  await stop();
  stop = () => Promise.resolve();
  process.send?.({ type: 'ended' } satisfies FromHost);
}
