import {
  chosenBy,
  indexesOf,
  keepMapping,
  keepSendProblem,
  memberKey,
  type DriverDocument,
  type DriverKeep,
  type DriverKeepSend,
  type DriverParameter,
  type ValueShape,
} from '../driver';
import type { Scalar } from '../result';

/** A reading that a command sends back, and the parameter that takes it. */
interface TrackValue {
  readonly param: string;
  readonly key: string;
  readonly shape: ValueShape;
  /** How far off still counts as the same. */
  readonly within: number;
}

/** One command with which kept readings are sent back: for one member of a family, or for a single reading. */
export interface Track {
  /** Unique within its device: “boxPlace 3”. */
  readonly id: string;
  readonly command: string;
  /** The parameter that chooses the member. */
  readonly fixed: Readonly<Record<string, Scalar>>;
  readonly values: readonly TrackValue[];
  readonly moves: boolean;
  readonly jumps: DriverKeepSend['jumps'];
  readonly fade: DriverKeepSend['fade'];
  /** Only where this reading has one of these values. */
  readonly when: { readonly reading: string; readonly oneOf: readonly Scalar[] } | undefined;
  /** What readings of later commands of the group are after it, for the same members. */
  readonly resets: DriverKeepSend['resets'];
  readonly perSecond: number;
}

/** Asked for with every report: documents never change. */
const known = new WeakMap<DriverDocument, Map<DriverKeep, readonly Track[]>>();

/** The commands with which everything of a keep is sent back, in their order: each for all of its members. */
export function tracksOf(document: DriverDocument, keep: DriverKeep): readonly Track[] {
  const ofDocument = known.get(document) ?? new Map<DriverKeep, readonly Track[]>();
  known.set(document, ofDocument);
  const tracks = ofDocument.get(keep) ?? makeTracks(document, keep);
  ofDocument.set(keep, tracks);
  return tracks;
}

function makeTracks(document: DriverDocument, keep: DriverKeep): Track[] {
  return keep.sends.flatMap((send): Track[] => {
    const command = document.commands[send.command];
    if (!command || keepSendProblem(document, send)) return [];
    const { index, reads } = keepMapping(send, command);
    const base = {
      command: send.command,
      moves: send.moves === true,
      jumps: send.jumps,
      fade: send.fade,
      when: send.when,
      resets: send.resets,
      perSecond: keep.perSecond,
    };
    const valuesFor = (member: number | undefined): TrackValue[] =>
      reads.flatMap(({ param, family, within }) => {
        const shape = command.params[param]?.value;
        return shape ? [{ param, key: member === undefined ? family : memberKey(family, member), shape, within }] : [];
      });
    if (index === undefined) return [{ ...base, id: send.command, fixed: {}, values: valuesFor(undefined) }];
    const family = document.readings[reads[0]?.family ?? '']?.index;
    return (family ? indexesOf(family) : []).flatMap((member): Track[] => {
      const fixed = chosenBy(index, member);
      // Of 11 to 33 as layer and field there is no 14: the command does not take it.
      if (typeof index !== 'string' && !Object.entries(fixed).every(([name, to]) => takes(command.params[name], to)))
        return [];
      const { when } = base;
      return [
        {
          ...base,
          id: `${send.command} ${member}`,
          fixed,
          values: valuesFor(member),
          when: when && {
            reading: when.index === undefined ? when.reading : memberKey(when.reading, fixed[when.index] ?? 0),
            oneOf: when.oneOf,
          },
        },
      ];
    });
  });
}

/** True where a parameter takes a whole number. */
function takes(param: DriverParameter | undefined, value: number): boolean {
  if (param?.value.type !== 'whole') return false;
  const { min, max } = param.value;
  return !(typeof min === 'number' && value < min) && !(typeof max === 'number' && value > max);
}

/** Every reading of a keep, each once. */
export const keysOf = (tracks: readonly Track[]): string[] => [
  ...new Set(tracks.flatMap(({ values }) => values.map(({ key }) => key))),
];

/** True where two values of a reading are the same, as far as the device can tell. */
export const isSame = ({ within }: Pick<TrackValue, 'within'>, a: Scalar | undefined, b: Scalar | undefined): boolean =>
  a === b ||
  (typeof a === 'number' && typeof b === 'number' && Math.abs(a - b) <= within + 1e-9) ||
  (typeof a === 'string' &&
    typeof b === 'string' &&
    /^#[0-9A-Fa-f]{6}$/.test(a) &&
    a.toUpperCase() === b.toUpperCase());
