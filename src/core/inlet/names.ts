/** A name without what is hard to type or to write in an address: `Start of race!` and `start_of_race` are the same. */
const plain = (name: string): string =>
  name
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** True when somebody who wrote this means the thing of this name. */
export const isNamed = (name: string, written: string): boolean => {
  const wanted = plain(written);
  return wanted !== '' && plain(name) === wanted;
};
