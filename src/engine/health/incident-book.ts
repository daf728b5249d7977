import { join } from 'node:path';
import { incidentSchema, type Incident } from '../../core/health';
import type { Log } from '../../log';
import { LineFile } from '../record/line-file';

/** The newest incidents that are kept. */
const mostKept = 300;

/** The incidents of this data folder. Each change is a line with the incident as it is then; the last one counts. */
export class IncidentBook {
  private readonly byId = new Map<string, Incident>();
  private readonly file: LineFile<Incident>;

  constructor(dataDir: string, now: number, log: Log) {
    this.file = new LineFile(join(dataDir, 'health.jsonl'), incidentSchema, log, 'Incidents');
    const { lines, isLong } = this.file.read();
    for (const incident of lines) this.byId.set(incident.id, incident);
    // Nobody saw how these ended: the program did, first.
    for (const incident of this.byId.values()) if (incident.to === null) this.enter({ ...incident, to: now });
    this.drop();
    if (isLong) this.file.rewrite([...this.byId.values()]);
  }

  /** The newest first. */
  get all(): readonly Incident[] {
    return [...this.byId.values()].sort((a, b) => b.from - a.from);
  }

  of(id: string): Incident | undefined {
    return this.byId.get(id);
  }

  enter(incident: Incident): void {
    this.byId.set(incident.id, incident);
    this.drop();
    this.file.append(incident);
  }

  private drop(): void {
    for (const id of this.byId.keys()) {
      if (this.byId.size <= mostKept) return;
      this.byId.delete(id);
    }
  }
}
