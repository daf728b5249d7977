'use client';

import { localValue } from '../kit';

/** Whether the guide through the first steps is wanted in this browser: `on`, `off`, or nothing while nobody has said. */
export const guideWanted = localValue('sorrelfinch-first-steps');
const testedShow = localValue('sorrelfinch-rig-tested');

/** The rig of this show was tested whole. */
export const markTested = (show: string): void => testedShow.set(show);
export const useTestedShow = testedShow.use;
