/** What was picked last in this browser, newest first, by the name of a picker. */
const keyOf = (memory: string) => `sorrelfinch-used-${memory}`;
const most = 12;

export function usedLast(memory: string): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(memory)) ?? '[]');
    return Array.isArray(kept) ? kept.filter((each) => typeof each === 'string').slice(0, most) : [];
  } catch {
    // A browser that keeps nothing, or something else under this name: the list begins anew.
    return [];
  }
}

export function rememberUsed(memory: string, id: string): void {
  try {
    const others = usedLast(memory).filter((each) => each !== id);
    localStorage.setItem(keyOf(memory), JSON.stringify([id, ...others].slice(0, most)));
  } catch {
    // A browser that keeps nothing goes without.
  }
}
