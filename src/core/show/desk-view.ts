import type { DriverDocument } from '../driver';
import type { Problem } from '../result';
import type { ShowRecord } from './records';

/** The drivers at hand; they change rarely and are fetched apart from the show. */
export interface DriversView {
  readonly drivers: readonly DriverDocument[];
  /** Those of the drivers that were installed here, by id; the others ship. */
  readonly installed: readonly string[];
}

/** What the desk's editors need of the show as edited last. */
export interface DeskView extends DriversView {
  readonly seq: number;
  readonly records: readonly ShowRecord[];
  /** Changes with the drivers at hand. */
  readonly driversKey: string;
  /** Devices that have a password; the passwords themselves stay where they are. */
  readonly withPassword: readonly string[];
  readonly service: {
    /** The revision in service, or `null` while edits go through at once. */
    readonly running: number | null;
    /** Records that differ from it. */
    readonly drafted: number;
    readonly canStepBack: boolean;
  };
  /** What undo and redo would do in this window, by title. */
  readonly undo?: string;
  readonly redo?: string;
}

/** What an action of the desk answers. */
export type ActionResult =
  | { readonly ok: true; readonly said: string }
  | {
      readonly ok: false;
      readonly message: string;
      /** Everything that is wrong with a document, each with its place. */
      readonly problems?: readonly Problem[];
    };
