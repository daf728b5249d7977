/** Characters that need no encoding in a path or a query: unreserved, reserved but for `#`, and `%` (RFC 3986, sections 2.2, 2.3, 3.3, 3.4). */
const standing = /[A-Za-z0-9\-._~:/?[\]@!$&'()*+,;=]/;
const utf8 = new TextEncoder();

/**
 * A path with its query as a person typed it, as a request target in origin form (RFC 9112, section 3.2.1). What may stand there is
 * left alone, escapes that were typed included; what may not (blanks, quotes, `#`, letters outside ASCII) is escaped as UTF-8.
 */
export function asRequestTarget(typed: string): string {
  let target = '';
  const characters = [...typed];
  for (const [n, character] of characters.entries()) {
    const isEscape = character === '%' && /^[0-9A-Fa-f]{2}$/.test(characters.slice(n + 1, n + 3).join(''));
    if (isEscape || standing.test(character)) target += character;
    else for (const byte of utf8.encode(character)) target += `%${byte.toString(16).toUpperCase().padStart(2, '0')}`;
  }
  return target;
}
