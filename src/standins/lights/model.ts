import type { SacnPacket } from '../../core/wire';

/** ANSI E1.31, 6.7.1: a source that is not heard for this long is lost. */
export const lostAfterMs = 2500;

export interface LightSource {
  readonly name: string;
  readonly priority: number;
  readonly sequence: number;
  readonly heardAt: number;
}

/** The sources of a universe that a receiver hears, by their CID, and the levels of the one that it follows. */
export interface LightsState {
  readonly sources: ReadonlyMap<string, LightSource>;
  /** The CID of the source that it follows. */
  readonly followed: string | undefined;
  readonly levels: Uint8Array;
}

export const noLights: LightsState = { sources: new Map(), followed: undefined, levels: new Uint8Array(512) };

const textOf = (cid: Uint8Array): string => Array.from(cid, (byte) => byte.toString(16).padStart(2, '0')).join('');

/** ANSI E1.31, 6.7.2: a packet that came late by up to 20 is dropped. */
function isLate(sequence: number, last: number): boolean {
  const ahead = ((sequence - last + 128) & 0xff) - 128;
  return ahead <= 0 && ahead > -20;
}

/** What a packet changes. Preview data and other start codes light nothing (6.2.6, 7.6). */
export function received(state: LightsState, packet: SacnPacket, now: number): LightsState {
  const { priority, sourceName, sequence, isPreview, isTerminated, startCode, slots } = packet;
  if (isPreview || startCode !== 0) return state;
  const cid = textOf(packet.cid);
  const known = state.sources.get(cid);
  if (known && isLate(sequence, known.sequence)) return state;
  const sources = new Map(state.sources);
  if (isTerminated) sources.delete(cid);
  else sources.set(cid, { name: sourceName, priority, sequence, heardAt: now });
  const followed = highest(sources);
  if (followed !== cid) return { ...state, sources, followed };
  const levels = new Uint8Array(512);
  levels.set(slots.subarray(0, 512));
  return { sources, followed, levels };
}

/** Forgets the sources that were not heard for too long. What was lit stays lit. */
export function forgotten(state: LightsState, now: number): LightsState {
  const sources = new Map([...state.sources].filter(([, { heardAt }]) => now - heardAt < lostAfterMs));
  return sources.size === state.sources.size ? state : { ...state, sources, followed: highest(sources) };
}

/** The source with the highest priority; of equals the one that was there first. */
function highest(sources: LightsState['sources']): string | undefined {
  let best: string | undefined;
  for (const [cid, { priority }] of sources)
    if (best === undefined || priority > (sources.get(best)?.priority ?? 0)) best = cid;
  return best;
}
