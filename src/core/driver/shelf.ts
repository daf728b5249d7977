import { fail, ok, type Problem, type Result } from '../result';
import { compileDriver, compileParsed, parseDriver, type CompiledDriver } from './compile';
import type { DocumentUse } from './options';
import type { DriverDocument } from './schema';

/** What of a device decides how it is spoken to. */
interface DriverUse extends DocumentUse {
  readonly driver: string;
}

type Compiled = Result<CompiledDriver, readonly Problem[]>;

/** Shipped documents as they were read: once in a process, however many shelves stock them. */
const readOnce = new WeakMap<object, Result<DriverDocument, readonly Problem[]>>();
/** What was made of each document, by use. It goes with its document. */
const compiledOnce = new WeakMap<DriverDocument, Map<string, Compiled>>();

/** The driver documents at hand, each compiled once for every way in which devices use it. */
export class DriverShelf {
  private readonly documents = new Map<string, DriverDocument>();
  /** Documents that nobody has used yet, as they were given. */
  private readonly unread = new Map<string, unknown>();
  /** What was answered for exactly this use: it is asked for with every report. */
  private answered = new WeakMap<DriverUse, Compiled>();

  /**
   * Puts documents on the shelf that are known to be good: those that ship. Each is read when it is first used, for reading and compiling
   * all of them takes longer than everything else at a start.
   */
  stock(documents: readonly unknown[]): void {
    for (const document of documents) {
      this.remove(idOf(document));
      this.unread.set(idOf(document), document);
    }
  }

  /** Reads and compiles one of the stocked documents that nobody has used yet. Returns false if there is none. */
  compileNext(): boolean {
    const [id] = this.unread.keys();
    if (id === undefined) return false;
    this.resultFor({ driver: id });
    return true;
  }

  /** Puts documents on the shelf, in place of those with the same id. Returns the problems of those that are not good. */
  put(documents: readonly unknown[]): { readonly id: string; readonly problems: readonly Problem[] }[] {
    return documents.flatMap((document) => {
      const id = idOf(document);
      const result = compileDriver(document);
      if (!result.ok) return [{ id, problems: result.error }];
      this.remove(id);
      this.documents.set(id, result.value.whole);
      compiledOf(result.value.whole).set(keyOf({}), result);
      return [];
    });
  }

  remove(id: string): void {
    this.answered = new WeakMap();
    this.documents.delete(id);
    this.unread.delete(id);
  }

  get ids(): string[] {
    return [...this.documents.keys(), ...this.unread.keys()];
  }

  /** The driver as a device uses it; `undefined` when it is not there or does not go with the device's own additions. */
  for(use: DriverUse): CompiledDriver | undefined {
    const result = this.resultFor(use);
    return result.ok ? result.value : undefined;
  }

  resultFor(use: DriverUse): Compiled {
    const known = this.answered.get(use);
    if (known) return known;
    const result = this.compiledFor(use);
    if (result.ok) this.answered.set(use, result);
    return result;
  }

  private compiledFor(use: DriverUse): Compiled {
    const document = this.read(use.driver);
    if (!document.ok) return document;
    const made = compiledOf(document.value);
    const key = keyOf(use);
    let result = made.get(key);
    if (!result) made.set(key, (result = compileParsed(document.value, use)));
    return result;
  }

  private read(id: string): Result<DriverDocument, readonly Problem[]> {
    const known = this.documents.get(id);
    if (known) return ok(known);
    if (!this.unread.has(id)) {
      return fail([{ path: 'driver', message: `The driver “${id}” is not installed here.` }]);
    }
    const document = parsed(this.unread.get(id));
    this.unread.delete(id);
    if (document.ok) this.documents.set(id, document.value);
    return document;
  }
}

function parsed(document: unknown): Result<DriverDocument, readonly Problem[]> {
  if (typeof document !== 'object' || document === null) return parseDriver(document);
  let result = readOnce.get(document);
  if (!result) readOnce.set(document, (result = parseDriver(document)));
  return result;
}

function compiledOf(document: DriverDocument): Map<string, Compiled> {
  let made = compiledOnce.get(document);
  if (!made) compiledOnce.set(document, (made = new Map()));
  return made;
}

function keyOf({ options, additions }: DocumentUse): string {
  const plain = Object.keys(options ?? {}).length === 0 && !additions;
  return plain ? '' : JSON.stringify([options ?? {}, additions ?? null]);
}

const idOf = (document: unknown): string =>
  typeof document === 'object' && document !== null && 'id' in document ? String(document.id) : '';
