import { SaxesParser } from 'saxes';
import { fail, ok, type Result } from '../../result';
import type { Json } from '../json';

/** Elements inside elements beyond this are refused; no device needs so many. */
const deepest = 60;
const textOf = '#text';

/** An element whose end has not come yet. */
interface Open {
  readonly name: string;
  readonly attributes: readonly (readonly [string, string])[];
  readonly children: Map<string, Json[]>;
  text: string;
}

/**
 * XML 1.0 as JSON, so that the replies of a driver look at it by JSON Pointers. An element is an object of its children by their local names
 * (Namespaces in XML 1.0, section 4), its attributes as `@name`, its text as `#text`; one with nothing but text is that text. Children of the
 * same name are a list, and those named in `lists` are one even when there is only one of them. Attributes of `xml`, `xmlns` and `xsi` are left
 * out.
 *
 * Fails with a sentence for what is not well formed, for a document type declaration (its entities could grow without limit; SOAP 1.2 part 1,
 * section 5, forbids it), and for one that is nested too deeply.
 */
export function readXml(text: string, lists: readonly string[] = []): Result<Json, string> {
  const parser = new SaxesParser({ xmlns: false });
  const root: Open = { name: '', attributes: [], children: new Map(), text: '' };
  const open: Open[] = [root];
  const stop = (reason: string): never => {
    throw new Error(reason);
  };
  parser.on('error', ({ message }) => {
    // An entity that nobody defined stays as it is written; devices take some of HTML for XML's own.
    if (!message.endsWith('undefined entity.')) stop(message);
  });
  parser.on('doctype', () => stop('it has a document type declaration'));
  parser.on('opentag', ({ name, attributes }) => {
    if (open.length > deepest) stop(`it is nested more than ${deepest} elements deep`);
    const own = Object.entries(attributes).filter(([key]) => !/^(?:xmlns(?::|$)|xml:|xsi:)/.test(key));
    open.push({ name: localName(name), attributes: own, children: new Map(), text: '' });
  });
  const onText = (piece: string) => {
    const last = open.at(-1);
    if (last) last.text += piece;
  };
  parser.on('text', onText);
  parser.on('cdata', onText);
  parser.on('closetag', () => {
    const closed = open.pop();
    const parent = open.at(-1);
    if (!closed || !parent) return;
    const all = parent.children.get(closed.name) ?? [];
    all.push(valueOf(closed, lists));
    parent.children.set(closed.name, all);
  });
  try {
    parser.write(text).close();
    return ok(childrenOf(root, lists));
  } catch (error) {
    return fail(error instanceof Error ? error.message.slice(0, 120) : 'not XML');
  }
}

const childrenOf = ({ children }: Open, lists: readonly string[]): { readonly [name: string]: Json } =>
  Object.fromEntries(
    Array.from(children, ([name, all]) => [name, all.length > 1 || lists.includes(name) ? all : (all[0] ?? '')]),
  );

function valueOf(element: Open, lists: readonly string[]): Json {
  const text = element.text.trim();
  if (element.attributes.length === 0 && element.children.size === 0) return text;
  return {
    ...Object.fromEntries(element.attributes.map(([name, value]) => [`@${localName(name)}`, value])),
    ...childrenOf(element, lists),
    ...(text === '' ? {} : { [textOf]: text }),
  };
}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

/** Text as it stands between tags or in an attribute. Characters that XML 1.0 (section 2.2) does not allow are left out. */
export const escapeXml = (text: string): string =>
  text
    .replace(/[\0-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]/g, '')
    .replace(/[&<>"'\t\r\n]/g, (each) => escapes[each] ?? each);

/** White space as well: in an attribute a parser would make blanks of it, and of the ends of lines anywhere (sections 2.11 and 3.3.3). */
const escapes: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&apos;',
  '\t': '&#9;',
  '\r': '&#13;',
  '\n': '&#10;',
};
