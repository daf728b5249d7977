import type { HealthResponse } from '../src/core/live';

/** Asks once more where a connection that was kept open has just been closed at the other end, which a busy computer learns too late. */
const ask = (url: string): Promise<Response> => fetch(url).catch(() => fetch(url));

/** A program that runs, as a test reaches it from outside. */
export class ProgramEnds {
  constructor(
    readonly url: string,
    readonly standinUrl: string,
    readonly dataDir: string,
  ) {}

  async health(): Promise<HealthResponse> {
    return (await (await ask(`${this.url}/api/health`)).json()) as HealthResponse;
  }

  async pidOf(name: string): Promise<number> {
    const pid = (await this.health()).processes.find((each) => each.name === name)?.pid;
    if (pid === undefined) throw new Error(`${name} does not run.`);
    return pid;
  }

  async switcher(): Promise<{ program: number; preview: number; controllers: number }> {
    return (await (await ask(`${this.standinUrl}/sw1/state`)).json()) as never;
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
