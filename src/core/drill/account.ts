import { z } from 'zod';
import { isWell, type LinkWord } from '../session';
import { drillFaults, type ConcernCode, type DrillFault } from '../show';

const msSchema = z.number().min(0).optional();

/** One fault of a drill and what became of it. Times count from the moment at which it was caused, in milliseconds. */
export const faultAccountSchema = z.strictObject({
  fault: z.enum(drillFaults),
  /** The id of the device or panel, and what it is called. */
  subject: z.string(),
  name: z.string(),
  afterSeconds: z.number(),
  /** In milliseconds since 1970. */
  causedAt: z.number().optional(),
  /** Why it could not be caused. */
  failed: z.string().optional(),
  /** The program showed that something is wrong with it, and by what. */
  noticedMs: msSchema,
  noticedBy: z.string().optional(),
  /** The program said what is wrong. */
  namedMs: msSchema,
  namedAs: z.string().optional(),
  /** Somebody said that they have seen it. */
  seenMs: msSchema,
  seenBy: z.string().optional(),
  /** The fault was taken away, and everything was well again. */
  liftedMs: msSchema,
  mendedMs: msSchema,
});
export type FaultAccount = z.infer<typeof faultAccountSchema>;

/** What happens while a drill runs. */
export type DrillEvent =
  | { readonly is: 'link'; readonly device: string; readonly word: LinkWord }
  | { readonly is: 'concern'; readonly device: string; readonly code: ConcernCode; readonly text: string }
  | { readonly is: 'failed press'; readonly device: string; readonly outcome: string }
  /** How many screens of a panel are connected now. */
  | { readonly is: 'screens'; readonly panel: string; readonly count: number }
  /** The engine runs again after it was killed. */
  | { readonly is: 'engine back' };

/** The link or the concern by which the program says what is wrong. */
const named: Readonly<Partial<Record<DrillFault, { readonly word?: LinkWord; readonly code?: ConcernCode }>>> = {
  off: { word: 'down' },
  silent: { word: 'silent' },
  slow: { code: 'slow' },
  password: { word: 'locked out' },
  taken: { word: 'occupied' },
};

/** Takes an event into the account of a fault. Nothing counts before it was caused, and nothing after it was mended. */
export function accountOf(fault: FaultAccount, event: DrillEvent, now: number): FaultAccount {
  if (fault.causedAt === undefined || fault.mendedMs !== undefined) return fault;
  const ms = Math.max(0, now - fault.causedAt);
  switch (event.is) {
    case 'link': {
      if (event.device !== fault.subject) return fault;
      if (!isWell(event.word)) {
        const noticed = notice(fault, ms, `link ${event.word}`);
        return named[fault.fault]?.word === event.word ? name(noticed, ms, event.word) : noticed;
      }
      // Well again without having been seen unwell is how it was.
      const wasUnwell = fault.noticedMs !== undefined;
      if (fault.fault === 'slow') return fault.liftedMs === undefined ? fault : { ...fault, mendedMs: ms };
      return wasUnwell || fault.liftedMs !== undefined
        ? { ...fault, liftedMs: fault.liftedMs ?? ms, mendedMs: ms }
        : fault;
    }
    case 'concern': {
      if (event.device !== fault.subject) return fault;
      const noticed = notice(fault, ms, event.text);
      return named[fault.fault]?.code === event.code ? name(noticed, ms, event.text) : noticed;
    }
    case 'failed press':
      return event.device === fault.subject ? notice(fault, ms, `a press that ended as ${event.outcome}`) : fault;
    case 'screens': {
      if (fault.fault !== 'panel' || event.panel !== fault.subject) return fault;
      if (event.count === 0) return name(notice(fault, ms, 'no screen is connected'), ms, 'no screen is connected');
      return fault.liftedMs === undefined ? fault : { ...fault, mendedMs: ms };
    }
    case 'engine back': {
      if (fault.fault !== 'engine') return fault;
      const back = name(notice(fault, ms, 'the screens were cut off'), ms, 'the screens were cut off');
      return { ...back, liftedMs: ms, mendedMs: ms };
    }
  }
}

/** Somebody says that they have seen it. */
export const seen = (fault: FaultAccount, who: string, now: number): FaultAccount =>
  fault.causedAt === undefined || fault.seenMs !== undefined
    ? fault
    : { ...fault, seenMs: Math.max(0, now - fault.causedAt), seenBy: who };

/** The fault was taken away. */
export const lifted = (fault: FaultAccount, now: number): FaultAccount =>
  fault.causedAt === undefined || fault.liftedMs !== undefined
    ? fault
    : { ...fault, liftedMs: Math.max(0, now - fault.causedAt) };

const notice = (fault: FaultAccount, ms: number, by: string): FaultAccount =>
  fault.noticedMs === undefined ? { ...fault, noticedMs: ms, noticedBy: by } : fault;

const name = (fault: FaultAccount, ms: number, as: string): FaultAccount =>
  fault.namedMs === undefined ? { ...fault, namedMs: ms, namedAs: as } : fault;

/** A drill that was run, kept with its figures. */
export const drillResultSchema = z.strictObject({
  id: z.string(),
  name: z.string(),
  who: z.string(),
  /** In milliseconds since 1970. */
  startedAt: z.number(),
  endedAt: z.number(),
  /** It was stopped, or the rehearsal ended, before every fault was mended. */
  isCut: z.boolean(),
  faults: z.array(faultAccountSchema),
});
export type DrillResult = z.infer<typeof drillResultSchema>;
