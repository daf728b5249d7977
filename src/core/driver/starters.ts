import type { Scalar } from '../result';
import { memberKey, splitKey } from './reading-key';
import type { DriverDocument, DriverStarter } from './schema';

type StarterLamp = NonNullable<DriverStarter['lamp']>;

/** A starter with the member that it is for, ready to become a control. */
export interface OfferedStarter {
  readonly purpose: string;
  readonly title: string;
  /** `undefined`: it is a readout. */
  readonly command: string | undefined;
  readonly params: Readonly<Record<string, Scalar>>;
  readonly held: boolean;
  /** The first that holds is shown. */
  readonly lamps: readonly {
    readonly reading: string;
    readonly to: Scalar;
    readonly show: StarterLamp['show'];
    readonly word?: string;
  }[];
  /** What its label says instead of the title. */
  readonly label: DriverStarter['label'];
  /** The reading that names the member, for a label that follows it. */
  readonly labelFrom?: string;
  /** The reading whose picture it shows. */
  readonly picture?: string;
  /** Parameters that a press asks for first. */
  readonly asks: readonly string[];
}

/**
 * The starters of a device: those of its driver, one for each item where there is a list that the device has reported.
 * Lists that the document itself numbers (inputs) are offered even before it has.
 */
export function startersOf(
  document: DriverDocument,
  readings: Readonly<Record<string, Scalar | undefined>>,
): OfferedStarter[] {
  return document.starters.flatMap((starter): OfferedStarter[] => {
    if (starter.command !== undefined && !(starter.command in document.commands)) return [];
    if (!starter.each) return [offer(starter, undefined, undefined)];
    const { each } = starter;
    const members = Object.entries(readings)
      .flatMap(([key, value]) => {
        const { family, index } = splitKey(key);
        return family === each && index !== undefined && value !== undefined && value !== '' ? [{ index, value }] : [];
      })
      .sort((a, b) => a.index - b.index);
    return members.map(({ index, value }) => offer(starter, index, value));
  });
}

function offer(starter: DriverStarter, index: number | undefined, value: Scalar | undefined): OfferedStarter {
  const item = (given: Scalar | { readonly item: 'index' | 'value' }): Scalar =>
    typeof given === 'object' ? ((given.item === 'index' ? index : value) ?? '') : given;
  const params = Object.fromEntries(Object.entries(starter.params).map(([name, given]) => [name, item(given)]));
  const lamps = (starter.lamps ?? (starter.lamp ? [starter.lamp] : [])).map(({ reading, to, ...lamp }) => ({
    ...lamp,
    reading: index === undefined ? reading : memberKey(reading, index),
    to: item(to),
  }));
  const { purpose, command, held, label, picture: shown, asks = [] } = starter;
  const picture = shown === undefined ? {} : { picture: index === undefined ? shown : memberKey(shown, index) };
  const base = { purpose, command, params, held, lamps, label, asks, ...picture };
  if (index === undefined || !starter.each) return { ...base, title: starter.title };
  return { ...base, title: String(value), labelFrom: memberKey(starter.each, index) };
}
