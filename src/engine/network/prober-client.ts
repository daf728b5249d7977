import { request } from 'node:http';
import type { ProbeAnswers, ProbeOrder } from '../../core/diagnosis';

/** How the engine gets at the prober: looks things up, tries ports and searches without doing any of it itself. */
export interface Prober {
  /** The only answer of an order. Rejects when the prober is not there, or the signal says stop. */
  ask<D extends ProbeOrder['do']>(
    order: Extract<ProbeOrder, { do: D }>,
    signal?: AbortSignal,
  ): Promise<ProbeAnswers[D]>;
  /** Every answer of an order as it comes; resolves when there are no more. */
  follow<D extends ProbeOrder['do']>(
    order: Extract<ProbeOrder, { do: D }>,
    onAnswer: (answer: ProbeAnswers[D]) => void,
    signal?: AbortSignal,
  ): Promise<void>;
}

export function proberAt(port: number, token: string): Prober {
  const follow: Prober['follow'] = (order, onAnswer, signal) =>
    new Promise((resolve, reject) => {
      const headers = { authorization: `Bearer ${token}`, 'content-type': 'application/json' };
      const req = request({ host: '127.0.0.1', port, method: 'POST', path: '/', headers, signal }, (res) => {
        if (res.statusCode !== 200) {
          res.resume();
          return reject(new Error(`The prober answered with ${res.statusCode}.`));
        }
        let rest = '';
        res.setEncoding('utf8');
        res.on('data', (text: string) => {
          const lines = (rest + text).split('\n');
          rest = lines.pop() ?? '';
          for (const line of lines) onAnswer(JSON.parse(line) as never);
        });
        res.on('end', resolve);
        res.on('error', reject);
      });
      req.on('error', reject);
      req.end(JSON.stringify(order));
    });
  return {
    follow,
    ask: async (order, signal) => {
      let answer: unknown;
      await follow(order, (each) => (answer ??= each), signal);
      if (answer === undefined) throw new Error('The prober did not answer.');
      return answer as never;
    },
  };
}
