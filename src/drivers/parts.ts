/** Pieces of which several documents are made. */

export const is = (reading: string, equals: unknown, index?: string) => ({
  reading,
  equals,
  ...(index === undefined ? {} : { index }),
});

/** Confirmed when all of these hold. */
export const reported = (withinMs: number, ...all: readonly object[]) => ({ by: 'readings', all, withinMs });

/** Confirmed by the device's answer alone. */
export const answered = (withinMs: number) => ({ by: 'answer', withinMs });

export const text = (maxLength: number) => ({ type: 'text', maxLength });
export const whole = (min: number, max: number, unit?: string) => ({
  type: 'whole',
  min,
  max,
  ...(unit === undefined ? {} : { unit }),
});
export const onOff = { type: 'onOff', on: 'true', off: 'false' };
export const seconds = { type: 'time', writes: 'seconds' };
export const choice = (...values: readonly (string | readonly [value: string, title: string])[]) => ({
  type: 'choice',
  choices: values.map((each) =>
    typeof each === 'string' ? { value: each, title: each } : { value: each[0], title: each[1] },
  ),
});

/** A parameter that is picked from what the device lists, by number. */
export const listed = (title: string, family: string, most: number) => ({
  title,
  value: whole(1, most),
  listFrom: family,
});

/** One that is picked from what the device lists, and sent by name. */
export const named = (title: string, family: string, maxLength: number) => ({
  title,
  value: text(maxLength),
  listFrom: family,
  sends: 'value',
});

export const on = { title: 'On', value: onOff, default: true };

export const lamp = (reading: string, to: unknown, show: string, word?: string) => ({
  reading,
  to,
  show,
  ...(word === undefined ? {} : { word }),
});
