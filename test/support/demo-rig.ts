import { demoPasswords, demoShow, deviceIds } from '../../demo/show';
import type { ShowRecord } from '../../src/core/show';
import { shippedDrivers } from '../../src/drivers';
import { startFleet, type Fleet, type GatewayStandin, type StandinTag } from '../../src/standins';
import { checkerHere } from './checker';
import { inProcessProber } from './prober';
import { onTestFinished, startRig, until, type TestRig } from './rig';

/** The demo show in an engine of its own, with all of its stand-ins on free ports, connected. */
export interface DemoRig {
  readonly fleet: Fleet;
  readonly rig: TestRig;
  readonly records: readonly ShowRecord[];
  readonly operate: (tag: StandinTag, verb: string, body: object) => Promise<void>;
  /** Every stand-in’s own state. */
  readonly states: () => Record<string, unknown>;
}

export const tagOfId = new Map(Object.entries(deviceIds).map(([tag, id]) => [id, tag as StandinTag]));

/**
 * @param change changes the show before it is used
 * @param connected how many devices have to be connected before it begins
 */
export async function startDemoRig(
  change: (records: readonly ShowRecord[]) => readonly ShowRecord[] = (records) => records,
  connected = Object.keys(deviceIds).length,
): Promise<DemoRig> {
  const fleet = await startFleet({ host: '127.0.0.1', portBase: 0 });
  onTestFinished(() => fleet.stop());
  const portOf = (tag: StandinTag) =>
    tag === 'S1' ? (fleet.devices.get('G1') as GatewayStandin).serialPort : (fleet.devices.get(tag)?.port ?? 0);
  const records = change(
    demoShow(0).map((record) => {
      const tag = record.kind === 'device' ? tagOfId.get(record.id) : undefined;
      if (record.kind !== 'device' || !tag) return record;
      const options =
        'stillPort' in record.data.options
          ? { ...record.data.options, stillPort: fleet.pagePort }
          : record.data.options;
      return { ...record, data: { ...record.data, port: portOf(tag), options } };
    }),
  );
  const rig = await startRig(records, shippedDrivers, Object.fromEntries(demoPasswords), inProcessProber, checkerHere);
  await until(
    () => rig.engine.api.health().links.filter(({ link }) => link.word === 'up' || link.word === 'one-way').length,
    (up) => up >= connected,
    20_000,
  );
  return {
    fleet,
    rig,
    records,
    operate: async (tag, verb, body) => {
      const refused = await fleet.devices.get(tag)?.operate(verb, body);
      if (refused) throw new Error(`${tag} ${verb} ${JSON.stringify(body)}: ${refused}`);
    },
    states: () => Object.fromEntries([...fleet.devices].map(([tag, standin]) => [tag, standin.state()])),
  };
}
