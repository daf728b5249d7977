import type { Scalar } from '../result';
import type { GlideCurve } from '../show';
import { between } from './between';
import { curveAt } from './curve';
import { trackKey, type PlannedTrack } from './plan';

/**
 * A snapshot on its way, as a state: told the time it says what is to be sent. Times are milliseconds of a clock that only goes forward.
 * What is sent is worked out from the time alone, however late anybody looks: nothing drifts, and the last value is exact.
 */
export interface Glide {
  readonly ms: number;
  readonly curve: GlideCurve;
  readonly moves: readonly Moving[];
  readonly jumps: readonly Jumping[];
  readonly phase: GlidePhase;
}

export type GlidePhase =
  | { readonly is: 'running'; readonly isBack: boolean; readonly share: number; readonly since: number }
  | { readonly is: 'held'; readonly isBack: boolean; readonly share: number }
  /** Everything was sent: it is there, or back where it began · it was ended on its way. */
  | { readonly is: 'over'; readonly how: 'there' | 'back' | 'stopped' };

interface Moving {
  readonly planned: PlannedTrack;
  readonly nextAt: number;
  /** What was sent last, before that what it was. */
  readonly at: Readonly<Record<string, Scalar>>;
}

interface Jumping {
  readonly planned: PlannedTrack;
  /** The share of the time after which it is sent. */
  readonly share: number;
  readonly isDone: boolean;
}

/** A command that is due. */
export interface GlideSend {
  readonly device: string;
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
  readonly track: string;
  /** Nothing follows it on its track: its outcome is that of the track. */
  readonly isLast: boolean;
  /** The value that it brings about is overtaken by the next one: only the newest counts. */
  readonly isFrame: boolean;
  /** The track whose command has to be carried out before this is sent. */
  readonly after?: string;
}

interface Advanced {
  readonly glide: Glide;
  readonly sends: readonly GlideSend[];
}

export const keyOfTrack = ({ device, track }: PlannedTrack): string => trackKey(device, track);

/** At the beginning; `advanceGlide` says what is due at once. @param ms 0 for a cut */
export function beginGlide(
  tracks: readonly PlannedTrack[],
  { ms, curve }: { readonly ms: number; readonly curve: GlideCurve },
  now: number,
): Glide {
  const phase = { is: 'running', isBack: false, share: 0, since: now } as const;
  if (ms <= 0) return { ms: 0, curve, moves: [], jumps: tracks.map(asCut), phase };
  return {
    ms,
    curve,
    moves: tracks
      .filter(({ isJump }) => !isJump)
      .map((planned) => ({ planned, nextAt: now + everyMs(planned), at: planned.from })),
    jumps: tracks
      .filter(({ isJump }) => isJump)
      .map((planned) => ({ planned, share: jumpShare(planned), isDone: false })),
    phase,
  };
}

const asCut = (planned: PlannedTrack): Jumping => ({ planned, share: 0, isDone: false });

const everyMs = ({ track }: PlannedTrack): number => 1000 / track.perSecond;

function jumpShare({ track, to }: PlannedTrack): number {
  switch (track.jumps) {
    case 'start':
      return 0;
    case 'middle':
      return 0.5;
    case 'end':
      return 1;
    case 'shown':
      return track.values.some(({ param }) => to[param] === false) ? 1 : 0;
  }
}

/** How much of its time has gone, 0 to 1; backwards it falls again. */
export function shareAt({ phase, ms }: Glide, now: number): number {
  if (phase.is === 'over') return phase.how === 'back' ? 0 : 1;
  if (phase.is === 'held') return phase.share;
  if (ms === 0) return 1;
  const gone = Math.max(0, now - phase.since) / ms;
  return Math.min(1, Math.max(0, phase.share + (phase.isBack ? -gone : gone)));
}

/** When it has to be asked again. `undefined` while it is held and once it is over. */
export function glideWakeAt({ phase, moves, jumps, ms }: Glide): number | undefined {
  if (phase.is !== 'running') return undefined;
  const end = phase.since + (phase.isBack ? phase.share : 1 - phase.share) * ms;
  const frames = moves.filter(({ planned }) => !planned.track.fade).map(({ nextAt }) => nextAt);
  const due = jumps
    .filter(({ isDone }) => isDone === phase.isBack)
    .map(({ share }) => phase.since + Math.max(0, phase.isBack ? phase.share - share : share - phase.share) * ms);
  return Math.min(end, ...frames, ...due);
}

/** Everything that is due by now, and the glide afterwards. */
export function advanceGlide(glide: Glide, now: number): Advanced {
  const { phase } = glide;
  if (phase.is !== 'running') return { glide, sends: [] };
  const share = shareAt(glide, now);
  const isOver = phase.isBack ? share <= 0 : share >= 1;
  const before: GlideSend[] = [];
  const after: GlideSend[] = [];
  const jumps = glide.jumps.map((jump): Jumping => {
    const isDue = phase.isBack ? jump.isDone && share <= jump.share : !jump.isDone && share >= jump.share;
    if (!isDue) return jump;
    const { planned } = jump;
    if (!phase.isBack || hasWayBack(planned))
      (jump.share === 1 ? after : before).push(sendOf(planned, phase.isBack ? planned.from : planned.to, 'last'));
    return { ...jump, isDone: !phase.isBack };
  });
  const frames: GlideSend[] = [];
  const moves = glide.moves.map((move) => moved(glide, move, share, isOver, now, frames));
  const next: Glide = {
    ...glide,
    moves,
    jumps,
    phase: isOver ? { is: 'over', how: phase.isBack ? 'back' : 'there' } : phase,
  };
  return { glide: next, sends: [...before, ...frames, ...after] };
}

/** False where nobody knows what it was, or where what sets it back brings it there already. */
const hasWayBack = ({ track, from, reset }: PlannedTrack): boolean =>
  track.values.every(({ param }) => from[param] !== undefined) &&
  !(reset && track.values.every(({ param }) => from[param] === reset.to));

/** A track one look further: its last value exactly, or the frame that is due if it differs from the one before. */
function moved(
  { curve, phase }: Glide,
  move: Moving,
  share: number,
  isOver: boolean,
  now: number,
  sends: GlideSend[],
): Moving {
  const { planned } = move;
  if (phase.is !== 'running') return move;
  const target = phase.isBack ? planned.from : planned.to;
  if (isOver) {
    sends.push(sendOf(planned, target, 'last'));
    return { ...move, at: target };
  }
  if (planned.track.fade) return { ...move, at: positionOf(planned, share) };
  if (now < move.nextAt) return move;
  const every = everyMs(planned);
  // Frames that were missed are left out: the next one is on the grid again.
  const nextAt = move.nextAt + (Math.floor((now - move.nextAt) / every) + 1) * every;
  const at = positionOf(planned, curveAt(curve, share));
  if (planned.track.values.every(({ param }) => at[param] === move.at[param])) return { ...move, nextAt };
  sends.push(sendOf(planned, at, 'frame'));
  return { ...move, nextAt, at };
}

/** What a device that moves by itself is told when a glide begins, goes on or turns round. */
export function fadeSends(glide: Glide, now: number): GlideSend[] {
  const { phase, ms, moves } = glide;
  if (phase.is !== 'running') return [];
  const share = shareAt(glide, now);
  const leftMs = Math.round((phase.isBack ? share : 1 - share) * ms);
  return moves.flatMap(({ planned }): GlideSend[] => {
    const { fade, fixed } = planned.track;
    if (!fade) return [];
    const params = {
      ...fixed,
      ...(phase.isBack ? planned.from : planned.to),
      [fade.param]: fade.unit === 'ms' ? leftMs : Math.round(leftMs / 10) / 100,
    };
    return [{ ...sendOf(planned, {}, 'frame'), command: fade.command, params }];
  });
}

const positionOf = ({ track, from, to }: PlannedTrack, part: number): Record<string, Scalar> =>
  Object.fromEntries(
    track.values.map(({ param, shape }) => [param, between(shape, from[param] ?? '', to[param] ?? '', part)]),
  );

const sendOf = (planned: PlannedTrack, values: Readonly<Record<string, Scalar>>, as: 'frame' | 'last'): GlideSend => ({
  device: planned.device,
  command: planned.track.command,
  params: { ...planned.track.fixed, ...values },
  track: keyOfTrack(planned),
  isLast: as === 'last',
  isFrame: as === 'frame',
  ...(planned.reset ? { after: planned.reset.after } : {}),
});

/** Stops where it is until it goes on. What the device moves by itself is stopped there by what is returned. */
export function holdGlide(glide: Glide, now: number): Advanced {
  if (glide.phase.is !== 'running') return { glide, sends: [] };
  const share = shareAt(glide, now);
  return {
    glide: { ...glide, phase: { is: 'held', isBack: glide.phase.isBack, share } },
    sends: haltsOf(glide, share),
  };
}

/** Goes on from where it is held. */
export const resumeGlide = (glide: Glide, now: number): Glide =>
  glide.phase.is === 'held' ? running(glide, glide.phase.isBack, now) : glide;

/** Turns round: back to where it began, or forward again. Also out of a hold. */
export const turnGlide = (glide: Glide, now: number): Glide =>
  glide.phase.is === 'over' ? glide : running(glide, !glide.phase.isBack, now);

function running(glide: Glide, isBack: boolean, now: number): Glide {
  return {
    ...glide,
    moves: glide.moves.map((move) => ({ ...move, nextAt: now + everyMs(move.planned) })),
    phase: { is: 'running', isBack, share: shareAt(glide, now), since: now },
  };
}

/** Ends it where it is. */
export function stopGlide(glide: Glide, now: number): Advanced {
  if (glide.phase.is === 'over') return { glide, sends: [] };
  return {
    glide: { ...glide, phase: { is: 'over', how: 'stopped' } },
    sends: haltsOf(glide, shareAt(glide, now)),
  };
}

const haltsOf = ({ moves, phase }: Glide, share: number): GlideSend[] =>
  phase.is === 'held'
    ? []
    : moves.flatMap(({ planned }) =>
        planned.track.fade ? [sendOf(planned, positionOf(planned, share), 'frame')] : [],
      );

/** Without some of its tracks: another glide or a hand has them now. */
export const withoutTracks = (glide: Glide, gone: (key: string) => boolean): Glide => ({
  ...glide,
  moves: glide.moves.filter(({ planned }) => !gone(keyOfTrack(planned))),
  jumps: glide.jumps.filter(({ planned, isDone }) => isDone || !gone(keyOfTrack(planned))),
});

/** True while nothing is left that it would still send. */
export const isEmpty = ({ moves, jumps }: Glide): boolean => moves.length === 0 && jumps.every(({ isDone }) => isDone);

/** Where it has brought a reading; `undefined` for one that it does not move. */
export function reachedBy({ moves }: Glide, device: string, key: string): Scalar | undefined {
  for (const { planned, at } of moves) {
    if (planned.device !== device) continue;
    const value = planned.track.values.find((each) => each.key === key);
    if (value) return at[value.param];
  }
  return undefined;
}

/** The value of a share between two snapshots, for a fader: every track at that place. */
export const morphSends = (tracks: readonly PlannedTrack[], part: number): GlideSend[] =>
  tracks.map((planned) =>
    sendOf(planned, planned.isJump ? (part >= 0.5 ? planned.to : planned.from) : positionOf(planned, part), 'frame'),
  );
