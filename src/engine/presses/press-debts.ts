import { targetOf } from '../../core/press';
import type { OwedStop } from '../../core/session';
import { resolveParams, type ControlRecord, type SendSpec } from '../../core/show';
import type { DeadMan, Entered, StopResult } from './dead-man';

/** What a press owes, once it is known whether anything of it has left. */
export interface PressDebt {
  /** Something has left: it takes the place of what an earlier press of the same control owes to the same target. */
  readonly sent: () => void;
  /** Nothing has left: it owes nothing, and what an earlier press owes stays. */
  readonly strike: () => void;
}

/** Which of the debts of a control a press takes on. */
interface Owing {
  /** Its release. */
  readonly held: boolean;
  /** What turns it off after a time. */
  readonly off: boolean;
  /** How long the press itself takes to be sent, in milliseconds. */
  readonly takesMs: number;
  /** Told how the nth command of the release went. */
  readonly onReleased?: (n: number, result: StopResult) => void;
}

/** The longest time of a release whose hand is not heard. */
const heldMaxMs = 600_000;

/** What presses owe on release and after their time, entered in the ledger before their first byte goes out. */
export class PressDebts {
  constructor(
    private readonly deadMan: DeadMan,
    /** When what a control has done to a target is turned off, in milliseconds since 1970; `undefined` when that is over. */
    private readonly onOff: (control: string, target: string, at: number | undefined) => void,
  ) {}

  /** Enters what a press owes. */
  owe(press: string, control: ControlRecord, { held, off: owesOff, takesMs, onReleased }: Owing): PressDebt {
    const { deadMan } = this;
    const { release = [], off } = control.data.responses;
    const entered: Entered[] = [];
    if (held)
      release.forEach((send, n) => {
        const onEnd = onReleased && ((result: StopResult) => onReleased(n, result));
        entered.push(deadMan.enter(press, stopOf(control, send), heldMaxMs, 'too long', onEnd));
      });
    const owner = offOwnerOf(control);
    const turnsOff = owesOff && off && owner !== undefined ? { owner, ...off } : undefined;
    const older = turnsOff ? deadMan.strikesOf(turnsOff.owner) : [];
    const afterMs = takesMs + (turnsOff?.afterMs ?? 0);
    const at = Date.now() + afterMs;
    for (const send of turnsOff?.sends ?? []) {
      const due = { at, owner: owner ?? '' };
      entered.push(deadMan.enter(due.owner, { ...stopOf(control, send), due }, afterMs, 'its time was over'));
    }
    return {
      sent: () => {
        for (const strike of older) strike();
        for (const each of entered) each.sent();
        if (turnsOff) this.tellOff(turnsOff.owner, at);
      },
      strike: () => {
        for (const each of entered) each.strike();
      },
    };
  }

  /** Tells what an earlier engine has left on that is still to be turned off. */
  start(): void {
    for (const { at, owner } of this.deadMan.due) if (controlOfOff(owner) !== undefined) this.tellOff(owner, at);
  }

  /** True while a second press of this control would turn off what it has on. */
  isOn(control: ControlRecord): boolean {
    return control.data.responses.off?.again === 'end' && this.offOwners(control).length > 0;
  }

  /** Turns off now what this control has on. */
  turnOff(control: ControlRecord): void {
    for (const owner of this.offOwners(control)) {
      this.deadMan.release(owner, 'ended by hand');
      this.tellOff(owner, undefined);
    }
  }

  /** True while what this control has on is still to be turned off. */
  owesOff(control: ControlRecord): boolean {
    const owner = offOwnerOf(control);
    return owner !== undefined && this.deadMan.owes(owner);
  }

  /** The owners of what this control has on: of its present target, or of all where it asks first. */
  private offOwners(control: ControlRecord): string[] {
    const owner = offOwnerOf(control);
    if (owner === undefined) return [];
    if (!control.data.responses.asks) return this.deadMan.owes(owner) ? [owner] : [];
    return [...new Set(this.deadMan.due.map((each) => each.owner))].filter((each) => controlOfOff(each) === control.id);
  }

  private tellOff(owner: string, at: number | undefined): void {
    const [, control = '', target = ''] = owner.split(' ');
    this.onOff(control, target, at);
  }
}

/** Who owes turning off what a control has done to its present target; `undefined` for a control that turns nothing off. */
export const offOwnerOf = ({ id, data }: ControlRecord): string | undefined =>
  data.responses.off && `off ${id} ${targetOf(data, data.responses.off.sends)}`;

const controlOfOff = (owner: string): string | undefined => /^off (\S+) /.exec(owner)?.[1];

const stopOf = ({ data }: ControlRecord, send: SendSpec): Omit<OwedStop, 'id'> => ({
  device: send.device,
  command: send.command,
  params: resolveParams(send.params, data.values),
});
