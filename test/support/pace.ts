/** A deadline, longer on a computer that is slow at the moment (`npm test` measures it). For what is waited for, never for what is timed. */
export const paced = (ms: number): number => ms * Number(process.env.TEST_PACE ?? 1);
