import type { ClientMessage, PressReport } from '../../core/live';
import { Listeners } from './listeners';

/** The last press of a control, for its mark. */
export interface PressMark extends PressReport {
  readonly control: string;
  /** By the browser's clock, in milliseconds since 1970. */
  readonly endedAt: number | undefined;
}

/** Well within the second after which the engine takes silence for letting go. */
const stillEveryMs = 250;

type Id = { readonly id: string };
type Sent = Extract<ClientMessage, Id>;
type WithoutId<M> = M extends Id ? Omit<M, 'id'> : never;

/** The presses of this screen: sends each with an id of its own, keeps holds alive, and keeps the last mark of each control. */
export class PressMarks {
  private readonly listeners = new Listeners<[]>();
  private marks: ReadonlyMap<string, PressMark> = new Map();
  private last: PressMark | undefined;
  private readonly controlOf = new Map<string, string>();

  constructor(
    private readonly say: (message: ClientMessage) => boolean,
    private readonly newId: () => string,
  ) {}

  readonly get = (): ReadonlyMap<string, PressMark> => this.marks;
  readonly getLast = (): PressMark | undefined => this.last;
  readonly listen = this.listeners.add;

  /**
   * Sends a press; its mark is that of `control`. One that cannot go out now ends as lost, and is never sent later.
   *
   * @param reason what is said then
   * @returns its id
   */
  send(control: string, message: WithoutId<Sent>, reason: string): string {
    const id = this.newId();
    this.controlOf.set(id, control);
    const isSent = this.say({ ...message, id } as Sent);
    if (isSent) this.enter({ t: 'press', id, outcome: 'taken', ms: 0 });
    else this.lose(id, reason);
    return id;
  }

  /** A press whose messages follow one after the other. */
  begin(control: string): string {
    const id = this.newId();
    this.controlOf.set(id, control);
    return id;
  }

  lose(id: string, reason: string): void {
    this.enter({ t: 'press', id, outcome: 'lost', why: 'link-down', ms: 0, reason });
  }

  /** Says that the hand is still there until the returned function is called, or this browser is gone. */
  keepHolding(id: string): () => void {
    const still = setInterval(() => this.say({ t: 'still', id }), stillEveryMs);
    let isHeld = true;
    return () => {
      if (!isHeld) return;
      isHeld = false;
      clearInterval(still);
      this.say({ t: 'release', id });
    };
  }

  /** A new connection is open: asks how the presses that have not ended stand. */
  onOpen(): void {
    for (const mark of this.marks.values()) if (mark.endedAt === undefined) this.say({ t: 'ask', id: mark.id });
  }

  enter(report: PressReport): void {
    const control = this.controlOf.get(report.id);
    if (control === undefined) return;
    const isEnded = report.outcome !== 'taken' && report.outcome !== 'waiting';
    const known = this.marks.get(control);
    // A control pressed twice shows the newer press.
    if (known && known.id !== report.id && known.endedAt === undefined && isEnded)
      return void this.controlOf.delete(report.id);
    const mark: PressMark = { ...report, control, endedAt: isEnded ? Date.now() : undefined };
    if (isEnded && report.outcome !== 'late') this.controlOf.delete(report.id);
    this.marks = new Map(this.marks).set(control, mark);
    this.last = mark;
    this.listeners.tell();
  }
}
