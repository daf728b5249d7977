import type { TimerEntry } from '../../core/timers';

const timer = (
  id: string,
  name: string,
  speaker: string,
  minutes: number,
  warnMinutes: number,
  colour: string,
  graceS = 0,
): TimerEntry => ({
  id,
  name,
  speaker,
  lengthS: minutes * 60,
  warnS: warnMinutes * 60,
  graceS,
  colour,
});

/** The day of the regatta, as its clock machine has it. */
export const regattaTimers: readonly TimerEntry[] = [
  timer('welcome', 'Welcome', 'Ines Varga', 5, 1, '#8a6f4d'),
  timer('briefing', 'Safety briefing', 'Tom Oakeshott', 8, 2, '#8a6f4d'),
  timer('boat-check', 'Boat check', '', 10, 2, '#4d6f72'),
  timer('crews-on-water', 'Crews on the water', '', 6, 1, '#4d6f72'),
  timer('start-sequence', 'Start sequence', 'Starter', 2, 0.5, '#7a4f38'),
  timer('race-window', 'Race window', '', 12, 3, '#7a4f38', 30),
  timer('interview', 'Pontoon interview', 'Maren Sills', 4, 1, '#6b5573'),
  timer('speech-club', 'Club address', 'Hal Brandreth', 7, 1, '#8a6f4d', 20),
  timer('prizes', 'Prize giving', 'Ines Varga', 15, 3, '#8a6f4d'),
];
