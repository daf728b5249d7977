const separator = '; ';

/** The members that a text names which stands for several: "SW1 Boxes; A1 Levels". Empty ones are left out. */
export const splitSeveral = (text: string): string[] =>
  text
    .split(';')
    .map((each) => each.trim())
    .filter((each) => each !== '');

/** Several members as one text. */
export const joinSeveral = (members: readonly string[]): string => members.join(separator);
