import type { HealthResponse } from '../src/core/live';

/** A program that runs, as a test reaches it from outside. */
export class ProgramEnds {
  constructor(
    readonly url: string,
    readonly standinUrl: string,
    readonly dataDir: string,
  ) {}

  async health(): Promise<HealthResponse> {
    return (await (await fetch(`${this.url}/api/health`)).json()) as HealthResponse;
  }

  async pidOf(name: string): Promise<number> {
    const pid = (await this.health()).processes.find((each) => each.name === name)?.pid;
    if (pid === undefined) throw new Error(`${name} does not run.`);
    return pid;
  }

  async switcher(): Promise<{ program: number; preview: number; controllers: number }> {
    return (await (await fetch(`${this.standinUrl}/sw1/state`)).json()) as never;
  }

  /** Works a stand-in by hand, or makes it misbehave. */
  async operate(verb: string, body: object, tag = 'sw1'): Promise<void> {
    const answer = await fetch(`${this.standinUrl}/${tag}/${verb}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(await answer.text());
  }
}
