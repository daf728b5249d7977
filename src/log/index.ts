export { logLevels, noLog, processLog, type Log } from './process-log';
