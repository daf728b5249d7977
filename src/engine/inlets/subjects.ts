import type { InletAnswer, InletError, InletSubject, Listable } from '../../core/inlet';
import { isNamed } from '../../core/inlet';
import { faceNow, labelNow, readingsOfFace } from '../../core/face';
import { fail, ok, type Result } from '../../core/result';
import {
  hasFixedName,
  nameOfRecord,
  ownDevice,
  type ControlRecord,
  type DeviceRecord,
  type ReadingRef,
} from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

/** What may be read or followed, found in the show. */
export interface FoundSubject {
  readonly id: string;
  /** As it is asked for: `SW1 input[3].name`, `lamp Race/Cut`. */
  readonly name: string;
  /** As an address of Open Sound Control: `/SW1/input/3/name`. */
  readonly address: string;
  /** What it is of; another after an edit. */
  readonly of: object;
  /** The readings that it hangs on. */
  readonly refs: readonly ReadingRef[];
  /** True when it may change while no reading does, as it looked last. */
  readonly hasClock: boolean;
  /** `undefined` while nobody knows. */
  readonly now: () => Extract<InletAnswer, { is: 'value' | 'lamp' }> | undefined;
}

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
}

/** Finds what somebody asks for by its names. */
export class Subjects {
  constructor(private readonly sources: Sources) {}

  find(subject: InletSubject): Result<FoundSubject, InletError> {
    return 'control' in subject ? this.lamp(subject.control) : this.reading(subject);
  }

  /** By its id, or by the name of its page and its label. */
  control(named: string): ControlRecord | undefined {
    const { controls, pages } = this.sources.show;
    const known = controls.get(named);
    if (known) return known;
    const [page = '', ...rest] = named.split('/');
    const label = rest.join('/');
    if (label === '') return undefined;
    const on = [...pages.values()].find(({ data }) => isNamed(data.name, page));
    const found = on ? [...this.sources.show.controlsOf(on.id).values()] : [];
    // What stands on a control may come from a device: as people read it now, it is its name, too.
    return (
      found.find((each) => isNamed(nameOfRecord(each), label)) ??
      found.find((each) => !hasFixedName(each) && isNamed(this.shownOn(each), label))
    );
  }

  private shownOn({ data }: ControlRecord): string {
    const { readings, show } = this.sources;
    const segments = labelNow(data, (ref) => readings.get(ref), show.documentOf);
    return segments.map((segment) => ('text' in segment ? segment.text : '')).join('');
  }

  /** Every lamp, and unless only lamps are wanted every reading that is reported now, whose address is wanted. */
  wanted(isWanted: (address: string) => boolean, onlyLamps: boolean): FoundSubject[] {
    const { show, readings } = this.sources;
    const found: FoundSubject[] = [];
    for (const control of show.controls.values())
      if (control.data.lamps.length > 0 && isWanted(this.lampAddress(control))) found.push(this.lampOf(control));
    if (onlyLamps) return found;
    for (const device of [ownDevice, ...show.devices.values()])
      for (const key of readings.keysOf(device.id))
        if (isWanted(readingAddress(device, key))) found.push(readingOf(readings, device, key));
    return found;
  }

  /** The names of what can be asked for, as a request takes them. */
  list(what: Listable, of: string): Result<readonly string[], InletError> {
    const { show, readings } = this.sources;
    const byOrder = <R extends { readonly data: { readonly order: number } }>(records: ReadonlyMap<string, R>) =>
      [...records.values()].sort((a, b) => a.data.order - b.data.order);
    switch (what) {
      case 'devices':
        return ok([ownDevice, ...show.devices.values()].map(({ data }) => data.tag));
      case 'readings': {
        const device = show.deviceByTag(of) ?? show.deviceByTag(of.toUpperCase());
        return device ? ok(firstOf([...readings.keysOf(device.id)])) : notFound(`device ${of}`);
      }
      case 'pages':
        return ok(byOrder(show.pages).map(({ data }) => data.name));
      case 'controls': {
        const page = show.pages.get(of) ?? [...show.pages.values()].find(({ data }) => isNamed(data.name, of));
        if (!page) return notFound(`page ${of}`);
        const named = [...show.controlsOf(page.id).values()].map((each) =>
          hasFixedName(each) ? nameOfRecord(each) : this.shownOn(each) || each.id,
        );
        return ok(firstOf(named));
      }
      case 'macros':
        return ok(byOrder(show.macros).map(({ data }) => data.name));
      case 'variables':
        return ok(byOrder(show.variables).map(({ data }) => data.key));
      case 'snapshots':
        return ok(byOrder(show.snapshots).map(({ data }) => `${data.number} ${data.name}`));
      case 'watches':
        return ok(byOrder(show.watches).map(({ data }) => `${data.number} ${data.name}`));
    }
  }

  private reading({ tag, key }: Extract<InletSubject, { tag: string }>): Result<FoundSubject, InletError> {
    const { show, readings } = this.sources;
    const device = show.deviceByTag(tag) ?? show.deviceByTag(tag.toUpperCase());
    if (!device) return notFound(`device ${tag}`);
    return ok(readingOf(readings, device, key));
  }

  private lamp(named: string): Result<FoundSubject, InletError> {
    const control = this.control(named);
    if (!control) return notFound(`control ${named}`);
    return ok(this.lampOf(control));
  }

  private lampAddress(control: ControlRecord): string {
    const parts = hasFixedName(control) ? [this.pageOf(control), nameOfRecord(control)] : [control.id];
    return `/lamp/${parts.map(oscPart).join('/')}`;
  }

  private readonly pageOf = ({ data }: ControlRecord): string =>
    this.sources.show.pages.get(data.page)?.data.name ?? '';

  private lampOf(control: ControlRecord): FoundSubject {
    const { show, readings } = this.sources;
    let again: number | undefined;
    return {
      id: `lamp ${control.id}`,
      of: control,
      name: `lamp ${this.pageOf(control)}/${nameOfRecord(control)}`,
      address: this.lampAddress(control),
      refs: readingsOfFace(control.data, show.documentOf),
      get hasClock() {
        return again !== undefined;
      },
      now: () => {
        const sources = {
          readingNow: (ref: ReadingRef) => readings.get(ref),
          documentOf: show.documentOf,
          now: Date.now(),
        };
        const current = show.controls.get(control.id);
        if (!current) return undefined;
        const looked = faceNow(current.data, sources);
        again = looked.again;
        const { lamp } = looked.face;
        return { is: 'lamp', show: lamp.show, word: 'word' in lamp ? lamp.word : '' };
      },
    };
  }
}

/** A list that is longer is cut: it has to fit into a datagram. */
const mostListed = 300;
const firstOf = (items: readonly string[]): readonly string[] => items.slice(0, mostListed);

type Device = Pick<DeviceRecord, 'id'> & { readonly data: { readonly tag: string } };

const readingAddress = ({ data }: Device, key: string): string =>
  `/${data.tag}/${key.replaceAll(/[[\].]+/g, '/').replace(/\/$/, '')}`;

function readingOf(readings: ReadingStore, device: Device, key: string): FoundSubject {
  const { id, data } = device;
  const ref = { device: id, key };
  return {
    id: `${id} ${key}`,
    of: readings,
    name: `${data.tag} ${key}`,
    address: readingAddress(device, key),
    refs: [ref],
    hasClock: false,
    now: () => {
      const reading = readings.get(ref);
      if (reading?.value === undefined || reading.freshness === 'unknown') return undefined;
      return { is: 'value', value: reading.value, isFresh: reading.freshness === 'fresh' };
    },
  };
}

/** A name as a part of an address: what OSC 1.0 does not allow there is left out. */
const oscPart = (name: string): string => name.trim().replaceAll(/[\s#*,/?[\]{}]+/g, '_');

export const notFound = (what: string): Result<never, InletError> =>
  fail({ code: 'not-found', message: `There is no ${what.slice(0, 80)}.` });
