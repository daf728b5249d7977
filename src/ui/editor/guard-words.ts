/** How a press can be asked to be confirmed. */
export const guardWords = {
  risky: 'only risky commands: hold',
  hold: 'always: hold until the bar is full',
  twice: 'always: press twice',
} as const;
