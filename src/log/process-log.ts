import { destination, pino, stdTimeFunctions, type Logger } from 'pino';

export type Log = Logger;

/** The levels that can be set with `LOG_LEVEL`, from the most to the least. */
export const logLevels = ['trace', 'debug', 'info', 'warn', 'error', 'silent'] as const;
type LogLevel = (typeof logLevels)[number];

const levelOf = (text: string | undefined): LogLevel => logLevels.find((level) => level === text) ?? 'info';

/**
 * The log of one process: a line of JSON each, to standard output. The supervisor collects the lines of all processes. Writing does not
 * wait for the reader, so that it costs the live path nothing.
 */
export const processLog = (process_: string): Log =>
  pino(
    {
      base: { process: process_ },
      level: levelOf(process.env.LOG_LEVEL),
      timestamp: stdTimeFunctions.epochTime,
      errorKey: 'cause',
    },
    destination({ fd: 1, sync: false }),
  );

/** For tests, and for parts that are used without a process of their own. */
export const noLog: Log = pino({ enabled: false });
