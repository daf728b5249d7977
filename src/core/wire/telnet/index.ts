export { ComPort, type ComPortNews, type LineSettings } from './com-port';
