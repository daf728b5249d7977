import type { FaceView } from '../face';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import type { ControlType, Tint } from '../show';
import type { Tally } from '../tally';
import type { OutputView } from '../outputs';
import type { ClockView } from '../timers';
import type { PastRun } from '../macro';
import type { Why, FinalOutcome } from '../press';
import type { Alert } from './alert';
import type { HealthFigures } from './health';
import type { LineCheckFigures } from './line-check';
import type { Grades, Link } from '../session';

/** Where presses go. */
export type Aim = 'live' | 'rehearse' | 'dry';

/** The state of one device as everybody may see it. */
/** A helper program of a device. */
export interface HelperStatus {
  readonly title: string;
  readonly port: number;
  readonly isRunning: boolean;
}

export interface DeviceStatus {
  readonly tag: string;
  readonly name: string;
  readonly role: string;
  readonly link: Link;
  /** When the link came into this state, in milliseconds since 1970. */
  readonly since: number;
  readonly grades: Grades;
  /** The tag of the gateway that it is reached through. */
  readonly through?: string;
  /** What it says of itself. */
  readonly model?: string;
  readonly firmware?: string;
  readonly serial?: string;
  /** Its helper programs, once they have been checked. */
  readonly helpers?: readonly HelperStatus[] | undefined;
  /** Why what it says of itself does not go with its driver. */
  readonly remark?: string;
  /** While it is down or silent: another address at which its hardware was seen. */
  readonly movedTo?: string | undefined;
  /** The device of the rig, by its id, whose hardware answers at this one's address. */
  readonly answersAs?: string | undefined;
}

/** Topic `status`: what the frame of every screen shows. */
export interface StatusView {
  /** How many macros the show has. */
  readonly macros: number;
  /** The snapshots that glide now. */
  readonly glides: readonly GlideView[];
  readonly aim: Aim;
  readonly show: {
    readonly name: string;
    /** The revision in service, or `null` while edits go through at once. */
    readonly revision: number | null;
    /** Things in the running show that will not work. */
    readonly problems: number;
  };
  readonly devices: Readonly<Record<string, DeviceStatus>>;
  /** In their order; `call` says whether it can be called: by a condition, or while no other page is. */
  readonly pages: readonly {
    readonly id: string;
    readonly name: string;
    readonly call?: 'condition' | 'otherwise';
  }[];
  /** The pages that are called now, in their order, and those of which nobody knows it: panels that follow go to the first of theirs. */
  readonly called: { readonly now: readonly string[]; readonly unsure: readonly string[] };
  /** How many devices have a tally: a phone can show that of one. */
  readonly tallies: number;
  /** How many clocks are in the rig: a screen can show one. */
  readonly clocks: number;
  /** How many devices stream or record. */
  readonly outputs: number;
  /** What is recorded by hand to make a macro of, or was and has not been taken yet. */
  readonly recorder: RecorderView | null;
  /** False when the as-run cannot be written. */
  readonly recording: boolean;
  /** Failures of the program itself since its start: how many, and when the last one was, in milliseconds since 1970. */
  readonly failures: { readonly count: number; readonly lastAt: number } | null;
  /** What cannot be written or read, for every screen. */
  readonly alerts: readonly Alert[];
  /** How far the show is proved; `null` before the first plan. */
  readonly lineCheck: LineCheckFigures | null;
  /** What has gone beyond its limit; `null` before the first look. */
  readonly health: HealthFigures | null;
  /** The panels of the show, in their order. */
  readonly panels: readonly PanelView[];
  /** What somebody has started or stopped, newest last. */
  readonly news: readonly NewsItem[];
  /** Where the stand-ins can be seen and operated by hand, where there are any. */
  readonly standinPages: string | null;
}

/** A snapshot on its way. */
export interface GlideView {
  readonly id: string;
  readonly name: string;
  readonly who: string;
  readonly aim: Aim;
  /** How far it had come, 0 to 1, at this time in milliseconds since 1970; it falls while it runs back. */
  readonly share: number;
  readonly at: number;
  /** When it ends; absent while it is held. */
  readonly endsAt?: number;
  readonly isBack: boolean;
}

/** A recording of what is done by hand. */
export interface RecorderView {
  /** In milliseconds since 1970. */
  readonly since: number;
  readonly who: string;
  readonly steps: number;
  /** It has no room for more. */
  readonly full: boolean;
  readonly stopped: boolean;
}

/** A set of pages under an address of its own. */
export interface PanelView {
  readonly id: string;
  readonly path: string;
  readonly name: string;
  /** In their order; none means all. */
  readonly pages: readonly string[];
  readonly hidden: readonly string[];
  readonly brightness: number;
  readonly linked?: true;
  /** Its screens go to the page that is called, unless that was turned off at the screen. */
  readonly follows?: true;
  /** Its screens are told what health finds. */
  readonly tellsHealth?: true;
}

/** Something that a screen is bound to besides fingers: a MIDI device, a game controller. */
export interface GearView {
  readonly id: string;
  readonly name: string;
  readonly kind: 'midi' | 'pad';
  readonly state: 'ready' | 'held elsewhere' | 'gone';
  /** When it was used last, in milliseconds since 1970. */
  readonly usedAt?: number;
}

/** Topic `screens`: every desk and panel that is connected, by the name that the record gives it. */
export interface ScreenView {
  /** Who it is in the record. */
  readonly who: string;
  readonly kind: 'desk' | 'panel' | 'automation';
  /** What the viewing device is called there. */
  readonly title: string;
  readonly panel?: string;
  readonly page?: string;
  /** The tag whose tally it shows; empty while the camera is being chosen. */
  readonly tally?: string;
  /** The tag whose clock it shows; empty while the clock is being chosen. */
  readonly clock?: string;
  /** There and back, in milliseconds. */
  readonly delayMs?: number;
  /** How often it had to connect again, and how many messages it has missed, since it was opened. */
  readonly cuts: number;
  readonly missed: number;
  readonly since: number;
  readonly usedAt?: number;
  readonly gear: readonly GearView[];
  /** The note that it was sent last, and whether somebody has seen it. */
  readonly note?: { readonly text: string; readonly seen: boolean };
  /** It joined with a token, under this name. */
  readonly joined?: string;
}
export type ScreensView = Readonly<Record<string, ScreenView>>;

/**
 * The panel that an invitation for a tally phone names. No show has a panel of this id: such a screen follows what all screens may follow,
 * the tally among it, and has no page and no control.
 */
export const tallyPanel = '-tally';
/** The same for a phone that answers the questions of the line check: it has these, and nothing else. */
export const walkPanel = '-walk';
/** The same for a screen that shows a clock. */
export const clockPanel = '-clock';

/** True for the id that stands for screens of one purpose instead of a panel. A show file can name anything; what they may do does not depend on it. */
export const isPurpose = (panel: string): boolean => [tallyPanel, walkPanel, clockPanel].includes(panel);

/** Topic `clocks`: every clock of the rig, by device. */
export type ClocksView = Readonly<Record<string, ClockView>>;

/** Topic `outputs`: everything that streams and records, by device. */
export type OutputsView = Readonly<Record<string, OutputView>>;

/** Topic `access`, for desks: who can come in from elsewhere, and who has tried to. */
export interface AccessView {
  /** Screens that have joined a panel, connected or not. */
  readonly joined: readonly {
    readonly id: string;
    readonly panel: string;
    readonly device: string;
    readonly at: number;
  }[];
  /** Invitations that nobody has used yet. */
  readonly invites: readonly { readonly id: string; readonly panel: string; readonly until: number }[];
  /** Addresses that gave a wrong access key and have to wait. */
  readonly wrongKeys: readonly WrongKeys[];
}

export interface WrongKeys {
  readonly address: string;
  readonly tries: number;
  /** When it tried last, and until when it is not listened to, in milliseconds since 1970. */
  readonly at: number;
  readonly until: number;
}

/** Topic `linked:<panel>`: what all screens of a linked panel show. */
export interface LinkedView {
  readonly page: string | null;
  /** By page, the context in which it is looked at, where that is not the usual one. */
  readonly contexts: Readonly<Record<string, string>>;
}

/** Something that everybody is told. */
export interface NewsItem {
  readonly n: number;
  readonly at: number;
  readonly text: string;
  /** Who brought it about, where that is known. */
  readonly by?: string;
}

export type { FaceView } from '../face';
export type { PastRun } from '../macro';

export interface ControlView {
  readonly type: ControlType;
  readonly col: number;
  readonly row: number;
  readonly cols: number;
  readonly rows: number;
  /** False for a control without a response: it only shows. */
  readonly pressable: boolean;
  /** A tap of it sends something. */
  readonly sends: boolean;
  /** It sends something risky: a press has to be meant. */
  readonly guarded: boolean;
  /** It is meant by a second press instead of by holding it. */
  readonly twice?: true;
  /** What it starts goes on while it is held, or what it sends depends on being let go. */
  readonly holds: boolean;
  /** It asks something before it is carried out. */
  readonly asks?: true;
  readonly tint?: Tint;
  readonly icon?: string;
  /** A picture of the show, by the hash of its bytes. */
  readonly picture?: string;
  /** The tags of the devices that it drives, where the page shows them. */
  readonly badge?: string;
  /** What pressing it does on the screen on which it is pressed. */
  readonly sets?:
    | { readonly shift: string; readonly while: 'held' | 'chosen' }
    | { readonly zone: string; readonly device: string }
    | { readonly page: string }
    | { readonly go: 'next' | 'back' | 'first' }
    | { readonly screen: 'lock' | 'dim' };
  /** Of a fader or dial. */
  readonly range?: {
    readonly min: number;
    readonly max: number;
    readonly step: number;
    readonly unit: string;
    /** One notch. */
    readonly tick: number;
    readonly quicken: number;
    readonly jumps?: true;
    /** Its value is a time in seconds. */
    readonly isTime?: true;
    /** What its values are called, the first for `min`. */
    readonly names?: readonly string[];
  };
  /** Of a stick that goes one way only. */
  readonly axes?: 'across' | 'along';
  /** Of a stick: the fastest that its device is set to go, in per cent. */
  readonly top?: number;
  /** Of presets: tiles side by side, and what may be done on this screen besides recalling one. */
  readonly presets?: {
    readonly columns?: number;
    /** Presets are stored, also under numbers that are empty. */
    readonly stores: boolean;
    /** Names, favourites, pictures and their order are changed. */
    readonly changes: boolean;
    readonly forgets: boolean;
  };
  /** Of a list: its form, and what can be done with an item or, where `item` is false, with the list as a whole. */
  readonly list?: {
    readonly form: 'small' | 'large';
    readonly acts: readonly {
      readonly title: string;
      readonly item: boolean;
      readonly ask?: string;
      readonly guarded: boolean;
    }[];
  };
}

export interface PageLayout {
  readonly id: string;
  readonly name: string;
  readonly columns: number;
  readonly rows: number;
  readonly note: string;
  readonly zones: readonly {
    readonly id: string;
    readonly title: string;
    readonly col: number;
    readonly row: number;
    readonly cols: number;
    readonly rows: number;
    /** What it can drive, and what it drives now. */
    readonly pick?: {
      readonly devices: readonly { readonly id: string; readonly tag: string; readonly name: string }[];
      readonly now: string | undefined;
      /** It goes with a reading unless somebody picks. */
      readonly follows: boolean;
    };
  }[];
  /** Levels besides the usual one. */
  readonly shifts: readonly { readonly id: string; readonly name: string }[];
  /** What the tints of its controls stand for. */
  readonly legend: readonly { readonly tint: Tint; readonly text: string }[];
}

/** Topic `tally`: of every device that a tie makes the source of something, by id. */
export interface TallyView {
  readonly devices: Readonly<Record<string, Tally & { readonly tag: string; readonly name: string }>>;
}

/** Topic `pulse`: once a second, how long each device took to answer last, and when it was heard last. By device. */
export interface PulseView {
  readonly devices: Readonly<Record<string, { readonly ms?: number; readonly heardAt: number }>>;
}

/** Topic `page:<id>`, or `page:<id>;shift=<level>;<zone>=<device>` for a page in a context. */
export interface PageView {
  readonly layout: PageLayout;
  readonly controls: Readonly<Record<string, ControlView>>;
  readonly faces: Readonly<Record<string, FaceView>>;
}

/** Topic `readings:<device>`: by reading key. */
export type ReadingsView = Readonly<Record<string, Reading>>;

/** Topic `wire`: what went to and came from the devices, byte for byte. */
export interface WireRow {
  readonly n: number;
  readonly at: number;
  readonly device: string;
  readonly dir: 'out' | 'in' | 'note';
  /** Two digits a byte. Empty for a note. */
  readonly hex: string;
  /** Why it was sent, what was odd about it, or the note itself. */
  readonly note?: string;
  /** The command or question that it is, or answers. */
  readonly name?: string;
  /** The command in words, with its values. */
  readonly says?: string;
  /** The press that it was sent for, or that it answers. */
  readonly press?: string;
}

export interface AsRunSend {
  readonly device: string;
  readonly command: string;
  /** The command as its driver says it, with its values: “Take Finish to program”. Rows of earlier versions lack it. */
  readonly says?: string;
  /** The command by its id in the driver, with the values given. Rows of earlier versions lack it. */
  readonly call?: { readonly command: string; readonly params: Readonly<Record<string, Scalar>> };
  /** The line that was sent, or would have been. */
  readonly text: string;
  readonly outcome: FinalOutcome;
  readonly ms: number;
  readonly reason?: string;
  readonly why?: Why;
  /** What went out, two digits a byte; secrets are masked and long ones cut off. */
  readonly bytes?: string;
}

/** A press of a control, as it can be made again. */
export interface PressedControl {
  readonly page: string;
  readonly control: string;
  readonly gesture: 'tap' | 'hold';
  readonly context?: string;
  readonly given?: Readonly<Record<string, Scalar>>;
}

/** Topic `as-run`: what was pressed, sent, confirmed and changed. */
export type AsRunRow = { readonly n: number; readonly at: number } & (
  | {
      readonly kind: 'press';
      readonly press: string;
      /** The run of a macro that it was a step of. */
      readonly run?: string;
      readonly who: string;
      readonly page: string;
      readonly label: string;
      readonly aim: Aim;
      readonly outcome: FinalOutcome;
      readonly ms: number;
      readonly reason?: string;
      readonly why?: Why;
      readonly sends: readonly AsRunSend[];
      /** The control that was pressed, and how. Lists, faders, trials and commands by hand have none, nor have rows of earlier versions. */
      readonly pressed?: PressedControl;
    }
  /** The link of a device. `changes` counts how often it changed since the previous row, where not each change has a row of its own. */
  | { readonly kind: 'link'; readonly device: string; readonly link: Link; readonly changes?: number }
  | {
      readonly kind: 'reading';
      readonly device: string;
      readonly key: string;
      readonly value: Scalar;
      /** The reading and its value in words; older rows lack them. */
      readonly name?: string;
      readonly shown?: string;
    }
  | { readonly kind: 'aim'; readonly aim: Aim; readonly who: string }
  | { readonly kind: 'service'; readonly revision: number | null }
  /** Something that went on was stopped. */
  | {
      readonly kind: 'stop';
      readonly device: string;
      readonly command: string;
      readonly why: string;
      /** Why its sending ended so; older rows have none. */
      readonly ending?: Why;
      readonly outcome: FinalOutcome;
      readonly ms: number;
      readonly reason?: string;
    }
  | { readonly kind: 'note'; readonly text: string }
  /** A macro began. */
  | {
      readonly kind: 'begin';
      readonly run: string;
      readonly macro: string;
      readonly macroId: string;
      readonly who: string;
      readonly aim: Aim;
    }
  /** A macro ended: what was planned, sent and confirmed when. */
  | {
      readonly kind: 'run';
      readonly macro: string;
      readonly macroId: string;
      readonly past: PastRun;
    }
);

/** Topic `runs`: the macros that run now, by run. */
export interface RunView {
  readonly macro: string;
  readonly name: string;
  readonly who: string;
  readonly aim: Aim;
  /** What it is at: the name of the segment, or what it waits for. */
  readonly at: string;
  readonly waiting: boolean;
  readonly leaving: boolean;
  readonly hasWayOut: boolean;
  /** When it began and when it will be at its end if nothing is waited for, by the engine's clock. */
  readonly startedAt: number;
  readonly endsAt: number;
  /** While it plays: the number of the segment, and when that is at its zero point. */
  readonly playing?: { readonly segment: number; readonly zeroAt: number };
  readonly sent: number;
  readonly steps: number;
}
export type RunsView = Readonly<Record<string, RunView>>;

/** Topic `macro:<id>`: the runs of one macro, newest first, the first one perhaps still under way. */
export interface MacroRunsView {
  readonly now: PastRun | null;
  readonly past: readonly PastRun[];
}

/** Topic `head`: the number of the last edit of the show, so that editors know when to look again. */
export interface HeadView {
  readonly seq: number;
}

/** The newest rows of a log, oldest first. */
export interface RowsView<Row> {
  readonly rows: readonly Row[];
}
