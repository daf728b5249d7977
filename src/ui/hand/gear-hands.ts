import {
  notch,
  notchesOf,
  otherAxis,
  outOfDeadZone,
  PickUp,
  rockerWay,
  writeMidi,
  type Binding,
} from '../../core/hand';
import type { FaceView } from '../../core/face';
import { isScreenKey, setBy, type PageContext, type ScreenKey } from '../../core/page';
import type { PageView } from '../../core/live';
import type { LiveClient, Turning } from '../live';
import { guardMs } from '../page/use-hand';
import type { FromGear, Gear } from './gear';

/** Has this screen look at a page in another way. */
export type Look = (page: string, change: (before: PageContext) => PageContext) => void;

/** A fader counts as released this long after its last movement. */
const stillMs = 400;
const blinkMs = 500;
/** A button that moves instead of clicking is down beyond this. */
const downAt = 0.5;

/** Turns what is done on gear into presses and turns of the controls that it is bound to, and sends their lamps back. */
export class GearHands {
  private bindings: readonly Binding[] = [];
  private readonly held = new Map<string, () => void>();
  private readonly guards = new Map<string, ReturnType<typeof setTimeout>>();
  private readonly turnings = new Map<
    string,
    {
      turning: Turning;
      still: ReturnType<typeof setTimeout> | undefined;
      /** What an endless encoder has set it to. */
      at?: number;
    }
  >();
  private readonly notchedAt = new Map<string, number>();
  private readonly pickUps = new Map<string, PickUp>();
  private readonly axes = new Map<string, number>();
  private readonly lit = new Map<string, string>();
  private unfollow: (() => void)[] = [];
  private contextOf: (page: string) => string | undefined = () => undefined;
  private look: Look = () => undefined;
  private onScreenKey: (sets: ScreenKey) => void = () => undefined;
  /** The topics that are followed, as one text. */
  private followed = '';
  /** The gear that was ready when the list was looked at last. */
  private ready = new Set<string>();
  private blink: ReturnType<typeof setInterval> | undefined;
  private stopList: () => void = () => undefined;

  constructor(
    private readonly live: LiveClient,
    private readonly gear: Gear,
  ) {}

  /** How this screen looks at a page, where that is not the usual way. */
  setContexts(
    contextOf: (page: string) => string | undefined,
    look: Look,
    onScreenKey: (sets: ScreenKey) => void,
  ): void {
    this.contextOf = contextOf;
    this.look = look;
    this.onScreenKey = onScreenKey;
    this.follow();
  }

  /** Follows the pages that gear is bound to, each as this screen looks at it now, shown or not. */
  private follow(): void {
    const topics = [...new Set(this.bindings.map(({ page }) => this.topicOf(page)))].sort();
    const text = topics.join(' ');
    if (text === this.followed) return;
    this.followed = text;
    const before = this.unfollow;
    this.unfollow = topics.map((topic) => this.live.onTopic(topic, () => this.light()));
    for (const stop of before) stop();
    this.light();
  }

  /** Gear that is there again has forgotten its lamps. */
  private readonly onList = (): void => {
    const ready = new Set(this.gear.getList().flatMap(({ name, state }) => (state === 'ready' ? [name] : [])));
    const back = [...ready].filter((name) => !this.ready.has(name));
    this.ready = ready;
    if (back.length === 0) return;
    for (const binding of this.bindings) if (back.includes(binding.gear)) this.lit.delete(keyOf(binding));
    this.light();
  };

  start(): void {
    this.blink = setInterval(() => this.light(), blinkMs);
    this.stopList = this.gear.onList(this.onList);
  }

  stop(): void {
    clearInterval(this.blink);
    this.stopList();
    for (const stop of this.unfollow) stop();
    this.letGo();
    this.unfollow = [];
    this.followed = '';
  }

  /** Releases everything that is held: the window lost the focus, or the bindings changed. */
  letGo(): void {
    for (const release of this.held.values()) release();
    for (const guard of this.guards.values()) clearTimeout(guard);
    for (const { turning, still } of this.turnings.values()) {
      clearTimeout(still);
      turning.release();
    }
    this.held.clear();
    this.guards.clear();
    this.turnings.clear();
  }

  setBindings(bindings: readonly Binding[]): void {
    this.letGo();
    this.bindings = bindings;
    this.lit.clear();
    this.follow();
    this.light();
  }

  onEvent(event: FromGear): void {
    for (const binding of this.bindings) {
      if (binding.gear !== event.gear) continue;
      if (
        binding.as === 'stick'
          ? [binding.input, otherAxis(binding.input)].includes(event.input)
          : binding.input === event.input
      )
        this.act(binding, event);
    }
  }

  private act(binding: Binding, event: FromGear): void {
    if (binding.as === 'press') return this.press(binding, event.down ?? event.value > downAt);
    if (binding.as === 'turn')
      return binding.coding ? this.turnBy(binding, binding.coding, event) : this.turn(binding, event.value);
    if (binding.as === 'rocker') return this.rock(binding, event);
    this.axes.set(`${event.gear} ${event.input}`, event.value);
    this.steer(binding);
  }

  private press(binding: Binding, down: boolean): void {
    const { page, control } = binding;
    const key = keyOf(binding);
    const view = this.viewOf(binding);
    if (!down) {
      clearTimeout(this.guards.get(key));
      this.guards.delete(key);
      this.held.get(key)?.();
      this.held.delete(key);
      return;
    }
    if (this.held.has(key) || this.guards.has(key) || !view?.control.pressable || view.face?.barred) return;
    const context = this.contextOf(page);
    const { sets, holds, sends } = view.control;
    const act = (guard: boolean) => {
      this.guards.delete(key);
      // What it chooses is this screen's, as on the screen itself.
      if (sets && isScreenKey(sets)) this.onScreenKey(sets);
      else if (sets) this.look(page, (before) => setBy(before, sets, true));
      const release = holds ? this.live.hold(page, control, guard, context) : undefined;
      if (!release && sends) this.live.press(page, control, 'tap', guard, context);
      if (!release && !sets) return;
      this.held.set(key, () => {
        release?.();
        if (sets) this.look(page, (before) => setBy(before, sets, false));
      });
    };
    // What is guarded on the screen is guarded here: it has to be held as long.
    if (view.control.guarded)
      this.guards.set(
        key,
        setTimeout(() => act(true), guardMs),
      );
    else act(false);
  }

  private turn(binding: Binding, value: number): void {
    const view = this.viewOf(binding);
    const range = view?.control.range;
    if (!range || view.face?.barred) return;
    const key = keyOf(binding);
    const span = range.max - range.min;
    const device = view.face?.range?.value;
    let pickUp = this.pickUps.get(key);
    if (!pickUp) this.pickUps.set(key, (pickUp = new PickUp()));
    const known = this.turnings.get(key);
    const stands = device === undefined ? undefined : (device - range.min) / span;
    if (!known) pickUp.resumes(stands);
    if (!known && !range.jumps && !binding.jumps && !pickUp.moved(value, stands)) return;
    if (known) pickUp.moved(value, stands);
    const open = known ?? {
      turning: this.live.turn(binding.page, binding.control, this.contextOf(binding.page)),
      still: undefined,
    };
    clearTimeout(open.still);
    open.turning.to(Math.round((range.min + value * span) / range.step) * range.step);
    open.still = setTimeout(() => {
      this.turnings.delete(key);
      open.turning.release();
    }, stillMs);
    this.turnings.set(key, open);
  }

  /** An endless encoder: from where the device is, so many notches on. */
  private turnBy(binding: Binding, coding: NonNullable<Binding['coding']>, event: FromGear): void {
    const view = this.viewOf(binding);
    const range = view?.control.range;
    if (!range || view.face?.barred || event.raw === undefined) return;
    const key = keyOf(binding);
    const known = this.turnings.get(key);
    const from = known?.at ?? view.face?.range?.value;
    // Where nobody knows what it is now, nobody knows what it would be.
    if (from === undefined) return;
    const now = performance.now();
    const far = notch(range.tick, range.quicken, now - (this.notchedAt.get(key) ?? 0));
    this.notchedAt.set(key, now);
    const to = from + notchesOf(coding, event.raw) * far;
    const at = Math.min(range.max, Math.max(range.min, Math.round(to / range.step) * range.step));
    const turning = known?.turning ?? this.live.turn(binding.page, binding.control, this.contextOf(binding.page));
    clearTimeout(known?.still);
    turning.to(at);
    const still = setTimeout(() => {
      this.turnings.delete(key);
      turning.release();
    }, stillMs);
    this.turnings.set(key, { turning, still, at });
  }

  /** What springs back drives while it is off its middle. */
  private rock(binding: Binding, { input, value }: FromGear): void {
    const key = keyOf(binding);
    const { y } = outOfDeadZone(0, rockerWay(input, value));
    const open = this.turnings.get(key);
    if (y === 0) {
      open?.turning.release();
      this.turnings.delete(key);
      return;
    }
    if (!open && this.viewOf(binding)?.face?.barred) return;
    const turning = open?.turning ?? this.live.turn(binding.page, binding.control, this.contextOf(binding.page));
    turning.to(y, y);
    this.turnings.set(key, { turning, still: undefined });
  }

  private steer(binding: Binding): void {
    const key = keyOf(binding);
    const at = (input: string) => this.axes.get(`${binding.gear} ${input}`) ?? 0;
    // On controllers down is positive.
    const { x, y } = outOfDeadZone(at(binding.input), -at(otherAxis(binding.input)));
    const open = this.turnings.get(key);
    if (x === 0 && y === 0) {
      open?.turning.release();
      this.turnings.delete(key);
      return;
    }
    const turning = open?.turning ?? this.live.turn(binding.page, binding.control, this.contextOf(binding.page));
    turning.to(x, y);
    this.turnings.set(key, { turning, still: undefined });
  }

  private viewOf({ page, control }: Binding) {
    const data = this.live.getTopic(this.topicOf(page)) as PageView | null | undefined;
    const view = data?.controls[control];
    return view && { control: view, face: data?.faces[control] };
  }

  /** Sends the lamps to the gear, each only when it has changed. */
  private light(): void {
    const open = this.live.getConnection().at === 'open';
    const phase = Math.floor(Date.now() / blinkMs) % 2 === 0;
    for (const binding of this.bindings) {
      const view = this.viewOf(binding);
      const value = open ? lampOf(view?.face, binding, view?.control.range, phase) : 0;
      if (value === undefined || this.turnings.has(keyOf(binding))) continue;
      const message = writeMidi(binding.input, value);
      const text = message?.join(' ');
      const key = keyOf(binding);
      if (!message || this.lit.get(key) === text) continue;
      this.lit.set(key, text ?? '');
      this.gear.send(binding.gear, message);
    }
  }

  private topicOf(page: string): string {
    return `page:${this.contextOf(page) ?? page}`;
  }
}

const keyOf = ({ gear, input }: Binding): string => `${gear} ${input}`;

/** How a lamp on gear shines: lit, or blinking; what is not known is dark, and half lit where it may be old. */
function lampOf(
  face: FaceView | undefined,
  { as }: Binding,
  range: { readonly min: number; readonly max: number } | undefined,
  phase: boolean,
): number | undefined {
  if (as === 'turn') {
    const value = face?.range?.doubt ? undefined : face?.range?.value;
    return range && value !== undefined ? (value - range.min) / (range.max - range.min) : undefined;
  }
  if (!face || face.lamp.show === 'off' || face.lamp.show === 'unknown') return 0;
  if (face.lamp.show === 'stale') return phase ? 0.1 : 0;
  return face.lamp.blink && !phase ? 0 : 1;
}
