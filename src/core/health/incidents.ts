import { z } from 'zod';
import { concernCodes } from '../show';
import type { Concern } from './concerns';

/** Something that went beyond its limit, from then until it was well again. */
export const incidentSchema = z.strictObject({
  id: z.string(),
  code: z.enum(concernCodes),
  about: z.strictObject({ kind: z.enum(['device', 'screen', 'computer']), id: z.string(), name: z.string() }),
  /** What was seen at its worst. */
  text: z.string(),
  /** In milliseconds since 1970; `to` is null while it lasts. */
  from: z.number(),
  to: z.number().nullable(),
  /** Who has seen it. */
  seen: z.strictObject({ who: z.string(), at: z.number(), note: z.string() }).optional(),
});
export type Incident = z.infer<typeof incidentSchema>;

interface Open {
  readonly incident: Incident;
  readonly part: number;
  /** Since when nothing is beyond the limit any more. */
  readonly calmSince: number | undefined;
}

/** What goes on, by kind and subject. */
export interface IncidentState {
  readonly open: ReadonlyMap<string, Open>;
  /** Beyond a limit, but not for long enough yet: since when. */
  readonly waiting: ReadonlyMap<string, number>;
}
export const noIncidents: IncidentState = { open: new Map(), waiting: new Map() };

interface IncidentStep {
  readonly state: IncidentState;
  /** New or changed, in their present form. */
  readonly begun: readonly Incident[];
  readonly worse: readonly Incident[];
  readonly ended: readonly Incident[];
}

/** Beyond a limit for this long, it is an incident; within it for this long, it is over. */
const beginsAfterMs = 4000;
const endsAfterMs = 30_000;
/** It is told anew when it is worse by this much. */
const worseBy = 1.25;

/** Takes what was found at one moment into account. Something that comes and goes is one incident. */
export function stepIncidents(
  state: IncidentState,
  concerns: readonly Concern[],
  now: number,
  newId: () => string,
): IncidentStep {
  const crossed = new Map(concerns.filter(({ level }) => level === 'crossed').map((each) => [keyOf(each), each]));
  const open = new Map<string, Open>();
  const waiting = new Map<string, number>();
  const begun: Incident[] = [];
  const worse: Incident[] = [];
  const ended: Incident[] = [];
  for (const [key, each] of state.open) {
    const found = crossed.get(key);
    if (found) {
      const isWorse = found.part >= each.part * worseBy;
      const next = isWorse ? { incident: { ...each.incident, text: found.text }, part: found.part } : each;
      if (isWorse) worse.push(next.incident);
      open.set(key, { ...next, calmSince: undefined });
      continue;
    }
    const calmSince = each.calmSince ?? now;
    if (now - calmSince < endsAfterMs) open.set(key, { ...each, calmSince });
    else ended.push({ ...each.incident, to: calmSince });
  }
  for (const [key, concern] of crossed) {
    if (open.has(key)) continue;
    const since = state.waiting.get(key) ?? now;
    if (now - since < beginsAfterMs) {
      waiting.set(key, since);
      continue;
    }
    const { code, about, text, part } = concern;
    const incident: Incident = { id: newId(), code, about, text, from: since, to: null };
    open.set(key, { incident, part, calmSince: undefined });
    begun.push(incident);
  }
  return { state: { open, waiting }, begun, worse, ended };
}

/** Enters who has seen an incident that lasts. */
export function seeIncident(state: IncidentState, seen: Incident): IncidentState {
  const open = [...state.open].map(([key, each]): [string, Open] => [
    key,
    each.incident.id === seen.id ? { ...each, incident: seen } : each,
  ]);
  return { ...state, open: new Map(open) };
}

const keyOf = ({ code, about }: Concern): string => `${code} ${about.kind} ${about.id}`;
