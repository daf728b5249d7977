import { z } from 'zod';
import type { CheckItem, CheckResult, Standing } from '../line-check';
import { idSchema } from '../show';

/** Topic `line-check`, for desks: what there is to prove, what has been proved, and what runs. */
export interface LineCheckView {
  readonly plan: {
    readonly state: 'none' | 'making' | 'ready' | 'failed';
    /** When it was made, in milliseconds since 1970. */
    readonly at?: number;
    /** Why it could not be made. */
    readonly why?: string;
    /** The show has changed since. */
    readonly isOld: boolean;
  };
  readonly run: CheckRunView | null;
  readonly items: Readonly<Record<string, CheckItemView>>;
}

export interface CheckItemView extends Omit<CheckItem, 'fingerprint' | 'proofs'> {
  readonly proofs: CheckItem['proofs'];
  readonly standing: Standing;
  /** The newest result of each proof; `isOld` where something that it depends on has changed since. */
  readonly results: readonly CheckResultView[];
}

export type CheckResultView = Omit<CheckResult, 'item' | 'fingerprint'> & { readonly isOld?: true };

export interface CheckRunView {
  readonly state: 'running' | 'paused';
  readonly who: string;
  /** In milliseconds since 1970. */
  readonly startedAt: number;
  readonly done: number;
  readonly total: number;
  /** How long what is left will take at the pace so far, in milliseconds. */
  readonly leftMs?: number;
  /** The show was edited since it began: it goes on with the plan that it began with. */
  readonly isOld: boolean;
}

/** Topic `walk-round`: the questions of the line check to people who stand at the devices, by item. */
export interface WalkRoundView {
  readonly questions: Readonly<Record<string, WalkQuestion>>;
}

export interface WalkQuestion {
  /** The device or panel that it is about, and what about it. */
  readonly place: string;
  readonly title: string;
  readonly asks: string;
  /** It is answered, or proved otherwise. */
  readonly isDone: boolean;
}

/** In the status: how far the show is proved. */
export interface LineCheckFigures {
  /** When something was proved last, in milliseconds since 1970. */
  readonly at: number | null;
  readonly total: number;
  readonly passed: number;
  readonly doubtful: number;
  readonly failed: number;
  readonly due: number;
}

export const checkOrderSchema = z.strictObject({
  items: z.array(z.string().max(2000)).max(20_000).optional().describe('Items by id; left out, all of them.'),
  devices: z.array(idSchema).max(500).optional().describe('Only what is about one of these devices, by id.'),
  pages: z.array(idSchema).max(500).optional().describe('Only what is on one of these pages, by id.'),
  panels: z.array(idSchema).max(100).optional().describe('Only what the pages of one of these panels rely on, by id.'),
  sites: z.array(z.string().max(60)).max(100).optional().describe('Only what is about a device at one of these sites.'),
  controls: z.array(idSchema).max(2000).optional().describe('Only what these controls send and show, by id.'),
  only: z
    .enum(['all', 'open', 'failed'])
    .default('all')
    .describe('`open` leaves out what is proved and has not changed since; `failed` is what failed or is doubtful.'),
  rehearse: z.boolean().default(true).describe('Proves commands and lamps on private stand-ins, too.'),
  putBack: z
    .array(idSchema)
    .max(500)
    .default([])
    .describe(
      'Devices, by id, that may be changed for a moment: each command is sent and what it changed is put back.',
    ),
});
export type CheckOrder = z.output<typeof checkOrderSchema>;

export const checkControlSchema = z.strictObject({ do: z.enum(['plan', 'pause', 'resume', 'cancel']) });

export const checkAnswerSchema = z.strictObject({
  item: z.string().max(2000),
  answer: z.enum(['yes', 'no', 'cannot see']),
  who: z.string().trim().min(1, 'a name').max(60),
  note: z.string().trim().max(500).default(''),
});
export type CheckAnswer = z.output<typeof checkAnswerSchema>;

export const checkDismissSchema = z.strictObject({ item: z.string().max(2000) });

export const checkSignSchema = z.strictObject({
  who: z.string().trim().min(1, 'a name').max(60),
  note: z.string().trim().max(500).default(''),
});

/** A report that somebody has signed. */
export interface SignedReport {
  /** Of its file. */
  readonly name: string;
  readonly who: string;
  readonly note: string;
  /** In milliseconds since 1970. */
  readonly at: number;
  readonly passed: number;
  readonly failed: number;
  readonly total: number;
}
