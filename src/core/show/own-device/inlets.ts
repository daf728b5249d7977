import type { DriverDocument } from '../../driver';

const index = { title: 'Inlet', from: 1, to: 100 };

const channels = { title: 'Channel', from: 0, to: 499 };
const displays = { title: 'Display', from: 0, to: 499 };
const lamp = {
  type: 'choice' as const,
  choices: ['off', 'red', 'green', 'amber'].map((value) => ({ value, title: value })),
};

/** What the program says of its inlets, each by its place in the list. */
export const ofInlets: DriverDocument['readings'] = {
  'inlet[].name': { title: 'Inlet name', value: { type: 'text' }, index },
  'inlet[].state': {
    title: 'Inlet',
    value: {
      type: 'choice',
      choices: [
        { value: 'off', title: 'Off' },
        { value: 'listening', title: 'Listening' },
        { value: 'failed', title: 'Cannot listen' },
        { value: 'locked out', title: 'Sign-in refused' },
      ],
    },
    index,
  },
  'inlet[].why': { title: 'Why the inlet cannot listen', value: { type: 'text' }, index },
  'inlet[].heard': { title: 'Messages heard', value: { type: 'whole' }, index },
  'inlet[].refused': { title: 'Messages refused', value: { type: 'whole' }, index },
  'inlet[].last': { title: 'Last message', value: { type: 'text' }, index },
  'inlet[].from': { title: 'Where the last message came from', value: { type: 'text' }, index },
  'dmx[].level': { title: 'Level received', value: { type: 'whole', min: 0, max: 255 }, index: channels },
  'display[].text': { title: 'Name received', value: { type: 'text' }, index: displays },
  'display[].left': { title: 'Left tally received', value: lamp, index: displays },
  'display[].right': { title: 'Right tally received', value: lamp, index: displays },
  'inlet[].came': { title: 'What came of the last message', value: { type: 'text' }, index },
};
