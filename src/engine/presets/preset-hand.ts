import type { PresetChange, PresetMessage, PressReport } from '../../core/live';
import { movedOrder, placeKeys, placeNow, presetName, recallSends, tilesNow } from '../../core/preset';
import { fail, ok, type Result } from '../../core/result';
import { tallyState, type ControlRecord, type DeviceRecord, type PresetRecord, type SendSpec } from '../../core/show';
import type { Log } from '../../log';
import type { Aims } from '../aim/aims';
import type { ReadingStore } from '../devices/readings';
import type { Stills } from '../pages/stills';
import type { Presses } from '../presses/presses';
import type { RunningShow } from '../show/running-show';
import type { WriteLive } from '../show/write-live';
import type { PresetStates } from './preset-states';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly presses: Presses;
  readonly aims: Aims;
  readonly states: PresetStates;
  /** Without it no pictures are taken. */
  readonly stills: Stills | undefined;
  /** Without it the show keeps nothing of presets. */
  readonly write: WriteLive | undefined;
  readonly log: Log;
}

/** Who acts, and how they are answered. */
interface Hand {
  readonly who: string;
  readonly report: (report: PressReport) => void;
  /** Something besides the press went wrong. */
  readonly tell: (message: string) => void;
}

/** What a preset is, with its camera. */
interface About {
  readonly message: PresetMessage;
  readonly control: ControlRecord;
  readonly device: DeviceRecord;
  readonly preset: PresetRecord | undefined;
  readonly label: string;
}

type Place = ReturnType<typeof placeNow>;

/** What can happen to a camera between a store and the picture of it. */
interface Meanwhile {
  /** Where it was as it was told to store. */
  readonly before: Place;
  readonly hasMoved: () => boolean;
}

const movedOn = fail('The camera moved on before its picture was taken. Recall the preset, then choose New picture.');

/** The position is read once more after a store, for up to this long: a camera that is asked says where it is only now and then. */
const settleMs = 5000;
const lookMs = 50;

/** What hands do with the presets that a control shows. */
export class PresetHand {
  constructor(private readonly sources: Sources) {}

  act(message: PresetMessage, { who, report, tell }: Hand): void {
    const about = this.aboutOf(message);
    if (typeof about === 'string') {
      const { id } = message;
      return report({ t: 'press', id, outcome: 'lost', why: 'missing', ms: 0, reason: about });
    }
    const { act } = message;
    switch (act.do) {
      case 'recall':
        return this.recall(about, who, report);
      case 'store':
        return this.store(about, act.name, who, report, tell);
      case 'forget':
        return this.forget(about, who, report, tell);
      case 'picture':
        return this.answer(message, report, this.newPicture(about));
      case 'move':
        return this.answer(message, report, this.move(about, act.by));
      case 'name':
      case 'favourite':
      case 'byPlace':
      case 'getBack':
        return this.answer(message, report, this.write({ ...act, ...keyOf(message) }));
    }
  }

  /** The preset that is meant, or why there is none. */
  private aboutOf(message: PresetMessage): About | string {
    const { show, presses } = this.sources;
    const { page, control: id, context, device: camera, number, act } = message;
    const control = presses.find(page, id, context);
    const board = control?.data.presets;
    const device = show.devices.get(camera);
    if (!control || !board || !device) return 'This control no longer shows presets of that camera.';
    const preset = [...show.presets.values()].find(({ data }) => data.device === camera && data.number === number);
    const isShown = board.device === undefined ? preset?.data.favourite === true : board.device === camera;
    if (!isShown) return 'This control does not show that preset.';
    if (board.recallsOnly && act.do !== 'recall') return 'This control only recalls presets.';
    if (!preset && act.do !== 'store') return `Preset ${number} of ${device.data.tag} is empty.`;
    const label = preset ? presetName(preset.data) : `Preset ${number}`;
    return { message, control, device, preset, label: `${device.data.tag} ${label}` };
  }

  private recall({ message, control, device, preset, label }: About, who: string, report: Hand['report']): void {
    const { show, states } = this.sources;
    const document = show.documentOf(device.id);
    const sends = document && preset ? recallSends(document, preset) : [];
    const { id } = message;
    if (sends.length === 0) {
      const reason = `${label} has no position that ${device.data.tag} could be sent to. Store it again.`;
      return report({ t: 'press', id, outcome: 'lost', why: 'missing', ms: 0, reason });
    }
    states.call(device.id, message.number, sends);
    this.press(message, control, sends, label, who, (said) => {
      if (['lost', 'refused', 'skipped'].includes(said.outcome))
        states.giveUp(device.id, message.number, said.outcome === 'skipped');
      report(said);
    });
  }

  private store(about: About, name: string | undefined, who: string, report: Hand['report'], tell: Hand['tell']): void {
    const { message, control, device, label } = about;
    const { aims } = this.sources;
    const presets = this.sources.show.documentOf(device.id)?.presets;
    if (!presets)
      return report(notKept(message, `The driver of ${device.data.tag} does not say how presets are stored.`));
    const send: SendSpec = { device: device.id, command: presets.store, params: { [presets.param]: message.number } };
    const storedAt = Date.now();
    const aim = aims.aim;
    const before = this.placeNow(device);
    const movesBefore = this.sources.states.movesOf(device.id);
    const hasMoved = () => this.sources.states.movesOf(device.id) !== movesBefore;
    this.press(message, control, [send], `Store ${label}`, who, (said) => {
      report(said);
      if (!hasWorked(said)) return;
      this.sources.states.store(device.id, message.number);
      if (aim !== 'live') return tell('Rehearsing: the presets of the show stay as they are.');
      void this.keep(about, name, storedAt, { before, hasMoved }).then((why) => why !== undefined && tell(why));
    });
  }

  /** Keeps in the show what was stored in the camera. Resolves with what is missing. */
  private async keep(
    { message, device, label }: About,
    name: string | undefined,
    storedAt: number,
    { before, hasMoved }: Meanwhile,
  ): Promise<string | undefined> {
    const [seen, taken] = await Promise.all([this.placeSince(device, storedAt, hasMoved), this.takePicture(device)]);
    // Somebody has sent the camera elsewhere by now: what it says and shows is not what it has stored.
    const place = hasMoved() ? before : seen;
    const picture = hasMoved() && taken.ok ? movedOn : taken;
    const why = await this.write({
      do: 'store',
      ...keyOf(message),
      ...(name === undefined ? {} : { name }),
      ...(place === undefined ? {} : { place }),
      ...(picture.ok ? { picture: picture.value } : {}),
      storedAt: new Date(storedAt).toISOString(),
    });
    if (why !== undefined) return `${label} is stored in the camera. ${why}`;
    return picture.ok || picture.error === '' ? undefined : `${label} is stored, without a picture. ${picture.error}`;
  }

  /**
   * Where a camera is, as it says after a time. Where it says nothing more, as it said last, if that was after it moved: a wrong position is
   * worse than none.
   */
  private placeSince(device: DeviceRecord, since: number, hasMoved: () => boolean) {
    const { readings, show } = this.sources;
    const document = show.documentOf(device.id);
    if (!document) return Promise.resolve(undefined);
    const keys = placeKeys(document);
    const saidSince = (time: number) => keys.every((key) => (readings.get({ device: device.id, key })?.at ?? 0) > time);
    return new Promise<Place>((resolve) => {
      const look = () => {
        if (!saidSince(since) && !hasMoved() && Date.now() - since < settleMs) return void setTimeout(look, lookMs);
        resolve(saidSince(this.sources.states.movedAt(device.id)) ? this.placeNow(device) : undefined);
      };
      look();
    });
  }

  private placeNow(device: DeviceRecord): Place {
    const { readings, show } = this.sources;
    const document = show.documentOf(device.id);
    return document && placeNow(document, (key) => readings.fresh(device.id, key));
  }

  /** A picture in base64, or why there is none; the reason is empty where the driver does not define a picture. */
  private async takePicture(device: DeviceRecord): Promise<Result<string, string>> {
    const { stills, show } = this.sources;
    const name = show.documentOf(device.id)?.presets?.still;
    if (!stills || name === undefined) return fail('');
    const taken = await stills.take(device, name);
    return taken.ok ? ok(taken.value.bytes.toString('base64')) : taken;
  }

  private async newPicture({ message, device, label }: About): Promise<string | undefined> {
    const picture = await this.takePicture(device);
    if (!picture.ok)
      return `${label} keeps its picture. ${picture.error || `${device.data.tag} hands out no pictures.`}`;
    return this.write({ do: 'picture', ...keyOf(message), picture: picture.value });
  }

  private forget(about: About, who: string, report: Hand['report'], tell: Hand['tell']): void {
    const { message, control, device, preset, label } = about;
    const presets = this.sources.show.documentOf(device.id)?.presets;
    const remove = () => this.write({ do: 'forget', ...keyOf(message) });
    // What the camera does not have it need not forget.
    if (preset?.data.byPlace) return this.answer(message, report, remove());
    if (presets?.forget === undefined)
      return report(notKept(message, `${device.data.tag} cannot forget a preset. Store another in its place.`));
    const send = { device: device.id, command: presets.forget, params: { [presets.param]: message.number } };
    const aim = this.sources.aims.aim;
    this.press(message, control, [send], `Forget ${label}`, who, (said) => {
      report(said);
      if (hasWorked(said) && aim === 'live') void remove().then((why) => why !== undefined && tell(why));
    });
  }

  private async move({ message, control, preset }: About, by: -1 | 1): Promise<string | undefined> {
    const { show, readings } = this.sources;
    const board = control.data.presets;
    if (!board || !preset) return undefined;
    const tiles = tilesNow(board, {
      readingNow: (ref) => readings.get(ref),
      documentOf: show.documentOf,
      presets: () => show.presets.values(),
      tagOf: (id) => show.devices.get(id)?.data.tag,
    });
    const order = movedOrder(
      preset.data.order,
      tiles.map((tile) => tile.order),
      by,
    );
    return order === undefined ? undefined : this.write({ do: 'order', ...keyOf(message), order });
  }

  private press(
    { id, page, context, guard = false }: PresetMessage,
    control: ControlRecord,
    sends: readonly SendSpec[],
    label: string,
    who: string,
    listener: (report: PressReport) => void,
  ): void {
    const guarded = this.isGuarded(control, sends);
    const request = { id, page, context, guard, who, gesture: 'tap' as const };
    this.sources.presses.act({ ...request, control, sends, guarded, label }, listener);
  }

  /** A recall that viewers would see has to be confirmed, where the control says so. */
  private isGuarded({ data }: ControlRecord, sends: readonly SendSpec[]): boolean {
    if (!data.presets?.guardsOnAir) return false;
    return sends.some(({ device }) => this.sources.readings.get({ device, key: tallyState })?.value === 'onAir');
  }

  /** Answers an act that sends nothing to the camera, once it is kept. */
  private answer(message: PresetMessage, report: Hand['report'], kept: Promise<string | undefined>): void {
    const began = performance.now();
    void kept.then((why) => {
      const ms = performance.now() - began;
      report(why === undefined ? { t: 'press', id: message.id, outcome: 'confirmed', ms } : notKept(message, why, ms));
    });
  }

  private async write(change: PresetChange): Promise<string | undefined> {
    const { write, log } = this.sources;
    if (!write) return 'Presets cannot be saved here.';
    try {
      return await write({ preset: change });
    } catch (cause) {
      log.warn({ cause }, 'A change of a preset could not be written.');
      return 'The change could not be saved, because the part of the program that writes the show does not answer. Try again in a moment.';
    }
  }
}

const keyOf = ({ device, number }: PresetMessage) => ({ device, number });

const notKept = ({ id }: PresetMessage, reason: string, ms = 0): PressReport => ({
  t: 'press',
  id,
  outcome: 'lost',
  why: 'not-kept',
  ms,
  reason,
});

const hasWorked = ({ outcome }: PressReport): boolean => outcome === 'confirmed' || outcome === 'sent';
