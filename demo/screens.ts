import type { ShowRecord } from '../src/core/show';
import { page, reading, type Zone } from './page-parts';

/** The public screen on the bank and the one in the club house. */
export function screensPage(): ShowRecord[] {
  const zone = (device: string, title: string, row: number, ofClassTwo: boolean): Zone => ({
    title,
    col: 0,
    row,
    cols: 6,
    buttons: [
      {
        label: 'On',
        icon: 'power',
        device,
        command: 'power',
        params: { on: true },
        lamp: { key: 'power', to: 'on', show: 'active' },
      },
      { label: 'Off', device, command: 'power', params: { on: false } },
      {
        label: 'Race feed',
        device,
        command: 'input',
        params: { input: 'digital1' },
        lamp: { key: 'input', to: 'digital1', show: 'active' },
      },
      {
        label: 'Results',
        device,
        command: 'input',
        params: { input: 'digital2' },
        lamp: { key: 'input', to: 'digital2', show: 'active' },
      },
      {
        label: 'Blank',
        device,
        command: 'show',
        params: { on: false },
        lamp: { key: 'shown', to: false, show: 'warning', word: 'BLANK' },
      },
      { label: 'Show picture', device, command: 'show', params: { on: true } },
      { label: [{ text: 'Power ' }, reading(device, 'power')], device },
      { label: [{ text: 'Lamp ' }, reading(device, 'lampHealth')], device },
      { label: [{ text: 'Fan ' }, reading(device, 'fan')], device },
      {
        label: 'Mute',
        icon: 'mute',
        device,
        command: 'mute',
        params: { on: true },
        lamp: { key: 'muted', to: true, show: 'warning', word: 'MUTED' },
      },
      { label: 'Sound on', icon: 'sound', device, command: 'mute', params: { on: false } },
      ofClassTwo
        ? {
            label: 'Freeze',
            device,
            command: 'freeze',
            params: { on: true },
            lamp: { key: 'frozen', to: true, show: 'warning', word: 'FROZEN' },
          }
        : { label: [{ text: 'Temperature ' }, reading(device, 'temperature')], device },
    ],
  });
  return page(
    'page-screens',
    'Screens',
    8,
    6,
    'A screen warms up for three seconds and takes nothing else meanwhile. Power is guarded: hold until the bar is full.',
    [zone('dev-d1', 'Bank screen', 0, false), zone('dev-d2', 'Club house screen', 2, true)],
  );
}
