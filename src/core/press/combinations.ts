import type { ControlRecord } from '../show';

type Responses = ControlRecord['data']['responses'];

/** A response that only some others go with. */
export type Combinable = 'held' | 'release' | 'repeat' | 'long' | 'asks';

const has: Readonly<Record<Combinable, (responses: Responses) => boolean>> = {
  held: ({ held }) => (held?.length ?? 0) > 0,
  release: ({ release }) => (release?.length ?? 0) > 0,
  repeat: ({ repeat }) => repeat !== undefined,
  long: ({ long }) => long !== undefined,
  asks: ({ asks }) => asks !== undefined,
};

const clashes: readonly { readonly pair: readonly [Combinable, Combinable]; readonly why: string }[] = [
  {
    pair: ['held', 'long'],
    why: 'What is sent while held starts on touch, so it cannot wait to see whether the press is long.',
  },
  { pair: ['held', 'repeat'], why: 'What is sent while held continues until release, so it cannot also repeat.' },
  { pair: ['long', 'repeat'], why: 'A press that is held long does something else, so it cannot also repeat.' },
  { pair: ['asks', 'held'], why: 'A control that asks first cannot be held.' },
  { pair: ['asks', 'release'], why: 'A control that asks first cannot be held, so it sends nothing on release.' },
  { pair: ['asks', 'repeat'], why: 'A control that asks first cannot be held, so it cannot repeat.' },
  { pair: ['asks', 'long'], why: 'A control that asks first cannot be held, so there is no long press.' },
];

/** Why a response cannot be added to those that a control has; `undefined` when it can. */
export function whyNotWith(responses: Responses, wanted: Combinable): string | undefined {
  const found = clashes.find(({ pair: [a, b] }) =>
    a === wanted ? has[b](responses) : b === wanted && has[a](responses),
  );
  return found?.why;
}

/** What a control has that does not go together, as sentences. Shows made elsewhere may hold such controls. */
export const clashesOf = (responses: Responses): string[] =>
  clashes.filter(({ pair }) => pair.every((each) => has[each](responses))).map(({ why }) => why);
