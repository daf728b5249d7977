import type { CompiledDriver } from '../../core/driver';
import type { Scalar } from '../../core/result';
import type { Link } from '../../core/session';
import type { Helper } from '../../core/show';
import type { DeviceSession } from '../devices/device-session';
import type { OnWire } from '../record/wire-log';

/** What is tested: a device of the rig, or one that is being typed. */
export interface TestTarget {
  readonly driver: CompiledDriver | undefined;
  readonly host: string;
  readonly port: number;
  readonly user: string;
  readonly password: string;
  /** The gateway's tag, for a device that is reached through one; host and port are then the gateway's. */
  readonly through: string | undefined;
  readonly enabled: boolean;
  /** The options of the driver as they are set, defaults left out. */
  readonly options: Readonly<Record<string, Scalar>>;
  /** Programs that must run beside it, besides those that its driver knows. */
  readonly helpers: readonly Helper[];
  /** Tags of other devices at the same address and port. */
  readonly sharedWith: readonly string[];
  /** Ports where a device of this driver may be instead. */
  readonly otherPorts: readonly number[];
  /** Drivers that the device may answer instead. */
  readonly otherDrivers: readonly CompiledDriver[];
  /** The rig's own connection, where it is up: it is used, and no second one is made. */
  readonly own:
    | {
        readonly session: DeviceSession;
        readonly link: Link;
        readonly since: number;
        readonly fresh: Fresh;
        /** Hears its bytes, with secrets masked, until what is returned is called. */
        readonly listen: (onWire: OnWire) => () => void;
      }
    | undefined;
  /** The rig's own connection is up, and what is tested is typed and not it. */
  readonly live: 'no' | 'elsewhere' | 'same place';
  /** Where the rig's own connection is up at the same address, and whether with this driver: nobody else knocks there. */
  readonly liveAt: { readonly port: number; readonly isAlike: boolean } | undefined;
  /** Somebody asked to interrupt the live connection for the test. */
  readonly interrupt: boolean;
  /** Ends the rig's own tries while another is under way; what it returns lets them go on. */
  readonly suspend: () => () => void;
}

export type Fresh = (key: string) => Scalar | undefined;
