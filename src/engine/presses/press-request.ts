import type { Aim, Gesture, PressedControl } from '../../core/live';
import type { PressContext } from '../../core/press';
import type { Scalar } from '../../core/result';
import type { ControlRecord, DeviceRecord, SendSpec } from '../../core/show';
import type { PressListener } from './press-book';

/** What every press has, whatever it is a press of. */
export interface Pressed {
  readonly id: string;
  readonly gesture: Gesture;
  /** The person confirmed it: held it down, said yes. Risky commands are not sent without. */
  readonly guard: boolean;
  readonly who: string;
  /** The run of a macro that it is a step of. */
  readonly run?: string;
  /** Who else owes a stop or a turning off for it. */
  readonly owners?: readonly string[];
  /** Told when its bytes leave. */
  readonly onLeft?: () => void;
}

/** What may come with a press of a control. */
interface WithAnswers extends Pressed {
  /** The answers to its questions, given beforehand. */
  readonly given?: Readonly<Record<string, Scalar>>;
  /** Nobody is there to answer. */
  readonly alone?: boolean;
}

export interface PressRequest extends WithAnswers {
  readonly page: string;
  readonly control: string;
  /** How the panel looks at the page, where that is not the usual way. */
  readonly context?: string;
}

/** An act of a list. */
export interface ChooseRequest extends Omit<PressRequest, 'gesture' | 'given'> {
  readonly gesture: 'tap';
  readonly act: number;
  readonly index: number | undefined;
  /** What the item is called now. */
  readonly value: Scalar | undefined;
  readonly given: Scalar | undefined;
}

/** Commands in the name of a control, such as the recall of a preset that it shows. */
export interface ActRequest extends Pressed {
  readonly page: string;
  readonly control: ControlRecord;
  readonly sends: readonly SendSpec[];
  /** They have to be confirmed, whatever they are. */
  readonly guarded: boolean;
  /** What the record calls it. */
  readonly label: string;
  readonly context?: string | undefined;
}

/** A command by hand, without a control. */
export interface CommandRequest extends Pressed {
  readonly device: DeviceRecord;
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
  /** What the record calls it; by hand unless said otherwise. */
  readonly label?: string;
  /** Where it goes, unless the engine aims dry; as the engine aims when absent. */
  readonly aim?: Aim;
}

/** What happens by itself: responses that are in no control, pressed like those of one. */
export interface FireRequest extends Pressed {
  readonly control: ControlRecord;
  /** What the record calls it: what began it, and what it is. */
  readonly page: string;
  readonly label: string;
}

/** A control pressed as it is in the editor, stored or not. */
export interface TrialRequest extends WithAnswers {
  readonly control: ControlRecord;
  readonly aim: Aim;
}

/** One press on its way: what is pressed, by whom, and where it goes. */
export interface PressSubject {
  readonly request: Pressed;
  /** With shift level and picks applied. A command by hand is a control of its own. */
  readonly control: ControlRecord;
  /** The control with the answers that came with the press. */
  readonly answered?: ControlRecord;
  readonly answers?: PressContext['answers'];
  readonly context: string | undefined;
  /** The press of a stored control, for the record. */
  readonly pressed?: PressedControl;
  /** Its rules are looked at. */
  readonly isBarrable: boolean;
  readonly aim: Aim;
  readonly named: () => { readonly page: string; readonly label: string };
  readonly listener: PressListener;
}
