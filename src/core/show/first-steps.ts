/** What has been done so far of the way from nothing to a tested show. */
interface FirstFacts {
  /** Devices in the rig, how many of them have an address, and how many answer. */
  readonly devices: number;
  readonly addressed: number;
  readonly up: number;
  readonly pages: number;
  readonly controls: number;
  readonly pressed: boolean;
  readonly tested: boolean;
}

interface FirstStep {
  readonly name: 'Patch' | 'Page' | 'Press' | 'Test';
  readonly done: boolean;
  /** What to do now, in a sentence that fits what is there already. */
  readonly say: string;
}

/** The four steps that lead through a new show, in order; what was done stays done whatever is missing before it. */
export function firstSteps({ devices, addressed, up, pages, controls, pressed, tested }: FirstFacts): FirstStep[] {
  const patch =
    devices === 0
      ? 'Enter the first device: search the network, or type its address.'
      : addressed < devices
        ? `Type the address of ${devices - addressed === 1 ? 'the device' : `the ${devices - addressed} devices`} that ${devices - addressed === 1 ? 'has' : 'have'} none yet.`
        : `${up} of ${devices} answer. Test the one that does not; the test says what is wrong.`;
  const page =
    pages === 0
      ? 'Make a page: the buttons for one job, such as the cameras.'
      : 'Edit the page: choose an empty cell and pick what the button does.';
  return [
    { name: 'Patch', done: devices > 0 && up === devices, say: patch },
    { name: 'Page', done: controls > 0, say: page },
    {
      name: 'Press',
      done: pressed,
      say: 'Press the button. With the aim on dry it is shown and recorded, and nothing is sent.',
    },
    { name: 'Test', done: tested, say: 'Test the whole rig: every stage of every connection, before the show.' },
  ];
}
