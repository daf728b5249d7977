import { indexesOf, memberKey, type ReadingChange } from '../../core/driver';
import { inputRecorded, inputTally, tallyInputs, tallyRecorded, tallyState } from '../../core/show';
import { wordOf, type Tally, type TallyNetwork } from '../../core/tally';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

/** Which inputs of a switcher have a tally of their own, each with the keys of its readings. */
interface Inputs {
  readonly input: number;
  readonly tally: string;
  readonly recorded: string;
}

/** Reports the tally of devices and inputs as readings, for watches, lamps, pages and inlets. */
export class TallyReadings {
  private network: TallyNetwork | undefined;
  private inputs: ReadonlyMap<string, readonly Inputs[]> = new Map();
  /** The devices that were told of. */
  private told = new Set<string>();

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
  ) {}

  /** The inputs of all switchers, for the network to keep an eye on. */
  look(): { readonly switcher: string; readonly input: number }[] {
    const inputs = new Map<string, readonly Inputs[]>();
    for (const [id, { data }] of this.show.devices) {
      const document = this.show.documentOf(id);
      const index = document && tallyInputs(document);
      if (!index) continue;
      const keysOf = (input: number) => ({
        input,
        tally: memberKey(inputTally, input),
        recorded: memberKey(inputRecorded, input),
      });
      inputs.set(id, indexesOf(index, data.options).map(keysOf));
    }
    this.inputs = inputs;
    return [...inputs].flatMap(([switcher, all]) => all.map(({ input }) => ({ switcher, input })));
  }

  /** Devices, drivers or ties have changed: everything is told anew. */
  onNetwork(network: TallyNetwork): void {
    this.network = network;
    const devices = new Set([...network.all.keys(), ...this.inputs.keys()]);
    for (const device of this.told) if (!devices.has(device)) this.report(device, [], ofDevice);
    this.told = devices;
    this.onTally([...network.all.keys()], this.inputs.keys());
  }

  onTally(devices: readonly string[], switchers: Iterable<string>): void {
    for (const device of devices) this.tell(device, tallyState, tallyRecorded, this.network?.of(device));
    for (const switcher of switchers) this.tellInputs(switcher);
  }

  private tellInputs(switcher: string): void {
    const { network } = this;
    const changes: ReadingChange[] = [];
    const gone: string[] = [];
    if (!network) return;
    for (const { input, tally, recorded } of this.inputs.get(switcher) ?? [])
      this.enter(switcher, tally, recorded, network.ofInput(switcher, input), changes, gone);
    this.report(switcher, changes, gone);
  }

  private tell(device: string, state: string, recorded: string, tally: Tally | undefined): void {
    const changes: ReadingChange[] = [];
    const gone: string[] = [];
    this.enter(device, state, recorded, tally, changes, gone);
    this.report(device, changes, gone);
  }

  /** Enters what differs from what the readings say. */
  private enter(
    device: string,
    state: string,
    recorded: string,
    tally: Tally | undefined,
    changes: ReadingChange[],
    gone: string[],
  ): void {
    const word = tally ? wordOf(tally) : 'unknown';
    const isRecorded = tally?.recorded ?? 'unknown';
    const set = (key: string, value: string | boolean) => {
      const before = this.readings.get({ device, key });
      if (value === 'unknown') {
        if (before) gone.push(key);
      } else if (before?.value !== value) changes.push({ key, value });
    };
    set(state, word);
    set(recorded, isRecorded);
  }

  private report(device: string, changes: readonly ReadingChange[], gone: readonly string[]): void {
    if (changes.length + gone.length > 0) this.readings.report(device, changes, Date.now(), gone);
  }
}

const ofDevice = [tallyState, tallyRecorded];
