import { z } from 'zod';
import type { StandinSite } from '../http';
import type { SwitcherStandin } from './server';
import { switcherPage } from './page';

const input = z.number().int();

const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('take'), input }),
  z.strictObject({ verb: z.literal('ready'), input }),
  z.strictObject({ verb: z.literal('cut') }),
  z.strictObject({ verb: z.literal('mix') }),
  z.strictObject({ verb: z.literal('rate'), frames: z.number().int() }),
  z.strictObject({ verb: z.literal('name'), input, text: z.string().min(1) }),
]);

const power = z.strictObject({ on: z.boolean() });

/** The switcher's page and verbs. `operate` works it by hand, `power` switches it on or off, `drop` cuts its connections. */
export function switcherSite(tag: string, standin: SwitcherStandin): StandinSite {
  return {
    tag,
    title: 'Vision switcher',
    page: () => switcherPage(tag),
    state: () => standin.view,
    watch: (watcher) => standin.watch(watcher),
    operate: async (verb, body) => {
      if (verb === 'operate') {
        const parsed = operation.safeParse(body);
        return parsed.success ? standin.operate(parsed.data) : sentence(parsed.error);
      }
      if (verb === 'power') {
        const parsed = power.safeParse(body);
        if (!parsed.success) return sentence(parsed.error);
        await standin.setPower(parsed.data.on);
        return undefined;
      }
      if (verb === 'drop') return void standin.drop();
      return 'Known verbs are operate, power and drop.';
    },
  };
}

const sentence = (error: z.ZodError): string =>
  error.issues.map((issue) => `${issue.path.join('.') || 'body'}: ${issue.message}`).join('; ');
