/** How much there is of each: “3 snapshots and 1 macro”. */
export const contentsOf = (snapshots: number, macros: number): string =>
  [counted(snapshots, 'snapshot'), counted(macros, 'macro')].filter((each) => each !== '').join(' and ');

const counted = (count: number, what: string): string =>
  count === 0 ? '' : count === 1 ? `1 ${what}` : `${count} ${what}s`;
