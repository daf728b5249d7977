import type { DriverDocument } from '../../driver';
import { command, param } from './parts';

const index = { title: 'Macro', from: 1, to: 200 };
const macro = param('Macro', { type: 'text', maxLength: 60 }, { listFrom: 'macro[].name', sends: 'value' });

/** What the program can be told about macros that run, and what it says of each by its place in the list. They are started by a response. */
export const ofMacros: Pick<DriverDocument, 'commands' | 'readings'> = {
  commands: {
    stopMacro: command('Stop a macro', 'Stop {macro}', {
      help: 'Ends every run of it at once, and releases whatever it holds.',
      params: { macro },
    }),
    leaveMacro: command('Leave a macro', 'Leave {macro} by its way out', {
      help: 'Every run of it goes on with its way out, where it has one, and else stops.',
      params: { macro },
    }),
  },
  readings: {
    'macro[].name': { title: 'Macro name', value: { type: 'text' }, index },
    'macro[].running': { title: 'Macro runs', value: { type: 'onOff', on: '1', off: '0' }, means: 'active', index },
  },
};
