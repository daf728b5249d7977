import { z } from 'zod';
import {
  burnInOrderSchema,
  checkAnswerSchema,
  checkControlSchema,
  checkDismissSchema,
  checkOrderSchema,
  checkSignSchema,
  replayOrderSchema,
} from '../../core/live';
import { checkReportSchema } from '../../core/line-check';
import { answerLines, HttpError, routeFor } from '../../http';
import type { LineCheck } from '../line-check/line-check';
import type { ApiSource } from './api-source';
import type { Principal } from './gate';

const route = routeFor<Principal>();
const done = { description: 'Done. The topic `line-check` tells what follows.' };
const refusals = { '400': 'The body is wrong; `field` names where.', '409': 'Not now; the message says why.' };

function checkOf({ lineCheck }: ApiSource): LineCheck {
  if (!lineCheck)
    throw new HttpError(503, 'no-line-check', 'The part of the program that plans the line check is not there.');
  return lineCheck;
}

/** Refuses with a reason, if there is one. */
function unless(why: string | undefined): { readonly ok: true } {
  if (why !== undefined) throw new HttpError(409, 'not-now', why);
  return { ok: true };
}

/** The line check over HTTP: the report, and what runs the check. */
export const lineCheckRoutes = (source: ApiSource): readonly ReturnType<typeof route>[] => [
  route({
    method: 'GET',
    path: '/api/line-check',
    id: 'getLineCheck',
    summary: 'The line check as a report: what the show relies on, and what of it is proved.',
    query: z.object({ format: z.enum(['json', 'csv']).default('json').describe('JSON, or a table.') }),
    answers: { description: 'The report now.', schema: { name: 'LineCheckReport', is: checkReportSchema } },
    handle: ({ query: { format } }) => {
      const check = checkOf(source);
      const name = `line-check-${new Date().toISOString().slice(0, 16).replace(/[:T]/g, '-')}.${format}`;
      const headers = { 'content-disposition': `attachment; filename="${name}"` };
      if (format === 'json') return Response.json(check.report(), { headers });
      return new Response(check.reportTable(), { headers: { ...headers, 'content-type': 'text/csv; charset=utf-8' } });
    },
  }),
  route({
    method: 'POST',
    path: '/api/line-check/run',
    id: 'runLineCheck',
    summary: 'Begins a line check. Devices are changed only if they are named in `putBack`, and then put back.',
    body: { name: 'LineCheckOrder', is: checkOrderSchema },
    answers: done,
    refusals,
    handle: async ({ body, who }) => unless(await checkOf(source).begin(body, who.kind)),
  }),
  route({
    method: 'POST',
    path: '/api/line-check/control',
    id: 'controlLineCheck',
    summary: 'Plans anew, or pauses, resumes or cancels the line check that runs.',
    body: { name: 'LineCheckControl', is: checkControlSchema },
    answers: done,
    refusals,
    handle: async ({ body }) => {
      const check = checkOf(source);
      switch (body.do) {
        case 'plan':
          await check.makePlan();
          return { ok: true };
        case 'pause':
          check.pause();
          return { ok: true };
        case 'cancel':
          check.cancel();
          return { ok: true };
        case 'resume':
          return unless(await check.resume());
      }
    },
  }),
  route({
    method: 'POST',
    path: '/api/line-check/answer',
    id: 'answerLineCheck',
    summary: 'Enters what a person saw.',
    body: { name: 'LineCheckAnswer', is: checkAnswerSchema },
    answers: done,
    refusals,
    handle: ({ body }) => unless(checkOf(source).answer(body)),
  }),
  route({
    method: 'GET',
    path: '/api/line-check/reports',
    id: 'getSignedLineChecks',
    summary: 'The reports that were signed, the newest first.',
    answers: { description: 'Name, who, note, time and figures of each.' },
    handle: () => ({ reports: checkOf(source).signed }),
  }),
  route({
    method: 'GET',
    path: '/api/line-check/reports/:name',
    id: 'getSignedLineCheck',
    summary: 'A report as it was signed.',
    answers: { description: 'The report.', schema: { name: 'LineCheckReport', is: checkReportSchema } },
    refusals: { '404': 'There is no such report.' },
    handle: async ({ params: { name = '' } }) => {
      const text = await checkOf(source).signedReport(name);
      if (text === undefined)
        throw new HttpError(404, 'no-such-report', 'There is no signed report of this name.', 'name');
      return new Response(text, { headers: { 'content-type': 'application/json; charset=utf-8' } });
    },
  }),
  route({
    method: 'POST',
    path: '/api/line-check/sign',
    id: 'signLineCheck',
    summary: 'Keeps the report as it is now, under a name and a note. It is not changed afterwards.',
    body: { name: 'LineCheckSignature', is: checkSignSchema },
    answers: done,
    refusals,
    handle: async ({ body: { who, note } }) => unless(await checkOf(source).sign(who, note)),
  }),
  route({
    method: 'POST',
    path: '/api/replay',
    id: 'replay',
    summary:
      'Plays a part of the as-run again, at private stand-ins, and tells what differs from then. Hanging up ends it.',
    body: { name: 'ReplayOrder', is: replayOrderSchema },
    answers: { description: 'The result of each press, one per line.', type: 'application/x-ndjson' },
    refusals: { '400': 'The body is wrong; `field` names where.', '503': 'The part that plays it is not there.' },
    handle: ({ body }) => {
      const { checker } = source;
      if (!checker)
        throw new HttpError(503, 'no-replay', 'The part of the program that plays the as-run is not there.');
      return answerLines(
        (tell, signal) => checker.replay(body, tell, signal),
        (cause) => ({ t: 'failed', message: cause instanceof Error ? cause.message : String(cause) }),
      );
    },
  }),
  route({
    method: 'POST',
    path: '/api/line-check/burn-in',
    id: 'beginBurnIn',
    summary: 'Exercises the rig for a while with harmless questions, and with commands that are put back.',
    body: { name: 'BurnInOrder', is: burnInOrderSchema },
    answers: { description: 'Done. The topic `burn-in` tells what follows.' },
    refusals,
    handle: ({ body, who }) => unless(source.burnIn.begin(body, who.kind)),
  }),
  route({
    method: 'POST',
    path: '/api/line-check/burn-in/stop',
    id: 'stopBurnIn',
    summary: 'Ends the burn-in before its time.',
    answers: done,
    handle: () => {
      source.burnIn.end();
      return { ok: true };
    },
  }),
  route({
    method: 'POST',
    path: '/api/line-check/dismiss',
    id: 'dismissLineCheck',
    summary: 'Says that somebody has dealt with what an item has left changed.',
    body: { name: 'LineCheckDismiss', is: checkDismissSchema },
    answers: done,
    refusals,
    handle: ({ body }) => {
      checkOf(source).dismiss(body.item);
      return { ok: true };
    },
  }),
];
