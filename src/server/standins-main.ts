import { standinTags, startFleet, type Fleet, type StandinTag } from '../standins';
import { beChild } from './child-messages';
import { readSettings } from './settings';

/**
 * The stand-ins' process: a child of the supervisor in the demo, or alone (`npm run standins`). Alone it takes what to start
 * and on which ports: `npm run standins -- SW1 C1=5678`. Without any, all of them start.
 */
const settings = readSettings(process.env);
if (!settings.ok) throw new Error(settings.error.map((problem) => problem.message).join(' '));
const { standinPortBase } = settings.value;

let stop = (): Promise<void> => Promise.resolve();
const tell = beChild(() => stop());
try {
  const { only, ports } = chosen(process.argv.slice(2));
  const fleet = await startFleet({ host: '127.0.0.1', portBase: standinPortBase, only, ports });
  stop = fleet.stop;
  tell({ type: 'ready' });
  // Started alone, from a terminal.
  if (!process.connected) announce(fleet);
} catch (error) {
  const inUse = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  tell({
    type: 'fatal',
    message: inUse
      ? `A port from ${standinPortBase} up is in use by another program. Stop that, or choose others with STANDIN_PORT_BASE.`
      : `The stand-ins could not start: ${String(error)}`,
  });
}

function chosen(args: readonly string[]): {
  readonly only: readonly StandinTag[];
  readonly ports: Partial<Record<StandinTag, number>>;
} {
  const ports: Partial<Record<StandinTag, number>> = {};
  const only = args.map((arg) => {
    const [, name = '', port] = /^([A-Za-z0-9]+)(?:=(\d{1,5}))?$/.exec(arg) ?? [];
    const tag = standinTags.find((each) => each === name.toUpperCase());
    if (!tag || (port !== undefined && (Number(port) < 1 || Number(port) > 65_535))) {
      console.error(
        `“${arg}” is no stand-in. Known are ${standinTags.join(', ')}, each with a port where wanted: C1=5678.`,
      );
      process.exit(1);
    }
    if (port !== undefined) ports[tag] = Number(port);
    return tag;
  });
  return only.length > 0 ? { only, ports } : { only: standinTags, ports };
}

function announce({ devices, pagePort }: Fleet): void {
  for (const [tag, { title, port }] of devices) {
    console.log(
      `${tag.padEnd(4)} ${title.padEnd(26)} port ${port}   http://127.0.0.1:${pagePort}/${tag.toLowerCase()}`,
    );
  }
  process.on('SIGINT', () => void stop().finally(() => process.exit(0)));
}
