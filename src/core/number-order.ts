const collator = new Intl.Collator('en', { numeric: true });

/** Compares texts so that numbers in them count as numbers: `C2` before `C10`. `localeCompare` would make a collator for each comparison. */
export const inNumberOrder = (a: string, b: string): number => collator.compare(a, b);
