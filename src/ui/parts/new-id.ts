/** An id for a new record. `crypto.randomUUID` is missing on plain HTTP from another computer; this is not. */
export function newId(
  kind:
    | 'dev'
    | 'ctl'
    | 'tie'
    | 'page'
    | 'zone'
    | 'shift'
    | 'pan'
    | 'mac'
    | 'seg'
    | 'drill'
    | 'step'
    | 'mark'
    | 'snap'
    | 'preset'
    | 'watch'
    | 'var'
    | 'inlet',
): string {
  const bytes = crypto.getRandomValues(new Uint8Array(8));
  return `${kind}-${Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('')}`;
}
