export { ComPort, type ComPortNews } from './com-port';
