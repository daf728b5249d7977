import type { InletAnswer, InletError, InletSubject } from '../../core/inlet';
import { isNamed } from '../../core/inlet';
import { faceOf, readingsOfFace } from '../../core/face';
import { fail, ok, type Result } from '../../core/result';
import { nameOfRecord, type ControlRecord, type ReadingRef } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

/** What may be read or followed, found in the show. */
export interface FoundSubject {
  readonly id: string;
  /** As it is asked for: `SW1 input[3].name`, `lamp Race/Cut`. */
  readonly name: string;
  /** As an address of Open Sound Control: `/SW1/input/3/name`. */
  readonly address: string;
  /** The readings that it hangs on. */
  readonly refs: readonly ReadingRef[];
  /** True when it may change while no reading does. */
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
    return on && [...this.sources.show.controlsOf(on.id).values()].find((each) => isNamed(nameOfRecord(each), label));
  }

  private reading({ tag, key }: Extract<InletSubject, { tag: string }>): Result<FoundSubject, InletError> {
    const { show, readings } = this.sources;
    const device = show.deviceByTag(tag) ?? show.deviceByTag(tag.toUpperCase());
    if (!device) return notFound(`device ${tag}`);
    const ref = { device: device.id, key };
    const { tag: own } = device.data;
    return ok({
      id: `${device.id} ${key}`,
      name: `${own} ${key}`,
      address: `/${own}/${key.replaceAll(/[[\].]+/g, '/').replace(/\/$/, '')}`,
      refs: [ref],
      hasClock: false,
      now: () => {
        const reading = readings.get(ref);
        if (reading?.value === undefined || reading.freshness === 'unknown') return undefined;
        return { is: 'value', value: reading.value, isFresh: reading.freshness === 'fresh' };
      },
    });
  }

  private lamp(named: string): Result<FoundSubject, InletError> {
    const control = this.control(named);
    if (!control) return notFound(`control ${named}`);
    const { show, readings } = this.sources;
    const page = show.pages.get(control.data.page)?.data.name ?? '';
    return ok({
      id: `lamp ${control.id}`,
      name: `lamp ${page}/${nameOfRecord(control)}`,
      address: `/lamp/${[page, nameOfRecord(control)].map(oscPart).join('/')}`,
      refs: readingsOfFace(control.data, show.documentOf),
      hasClock: true,
      now: () => {
        const sources = {
          readingNow: (ref: ReadingRef) => readings.get(ref),
          documentOf: show.documentOf,
          now: Date.now(),
        };
        const { lamp } = faceOf(control.data, sources);
        return { is: 'lamp', show: lamp.show, word: 'word' in lamp ? lamp.word : '' };
      },
    });
  }
}

/** A name as a part of an address: what OSC 1.0 does not allow there is left out. */
const oscPart = (name: string): string => name.trim().replaceAll(/[\s#*,/?[\]{}]+/g, '_');

export const notFound = (what: string): Result<never, InletError> =>
  fail({ code: 'not-found', message: `There is no ${what.slice(0, 80)}.` });
