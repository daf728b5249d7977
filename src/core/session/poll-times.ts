/**
 * When a device is asked first after it has come up: within the second half of the interval, so that devices of one kind that came up together
 * are not all asked in one turn of the event loop, while presses wait.
 *
 * @param random a number from 0 up to, not including, 1
 */
export const firstPollMs = (everyMs: number, random: number): number => Math.round(everyMs * (0.5 + 0.5 * random));

/** When it is asked next, in milliseconds: never later than the driver says, and up to a tenth earlier, so that devices do not fall into step. */
export const nextPollMs = (everyMs: number, random: number): number => Math.round(everyMs * (0.9 + 0.1 * random));
