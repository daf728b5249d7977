import {
  contractOf,
  fitsKind,
  isCountedIn,
  kindText,
  unitOfKind,
  type DriverAdditions,
  type DriverContract,
  type DriverParameter,
  type DriverReading,
} from '../../driver';
import type { Problem } from '../../result';

type Params = Readonly<Record<string, Pick<DriverParameter, 'value'>>>;

const none: DriverContract = { commands: {}, readings: {}, drives: {}, stills: {} };

/** What devices of a role offer by the same names, as text: `zoomTo` is “zoom to”. */
export const contractWords = (name: string): string =>
  name
    .replace('[]', '')
    .replace(/\./g, ' ')
    .replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** The names that an added command, or an added reading, of a device with this role can have in its contract. */
export const contractNames = (role: string, kind: 'commands' | 'readings'): string[] =>
  // What is added is never a family.
  Object.keys(contractOf(role)?.[kind] ?? {}).filter((name) => !name.includes('[]'));

/** As what an added command or reading is known to the contract. */
export const sameAsOf = (
  { contract }: DriverAdditions,
  kind: 'commands' | 'readings',
  id: string,
): string | undefined =>
  kind === 'readings'
    ? Object.keys(contract?.readings ?? {}).find((name) => contract?.readings[name] === id)
    : Object.keys(contract?.commands ?? {}).find((name) => contract?.commands[name]?.command === id);

/** Which of a command's own values is which of the contract: by its name, else the first that can be it. */
export function valuesInContract(role: string, name: string, params: Params): Record<string, string> {
  const kinds = contractOf(role)?.commands[name] ?? {};
  const free = new Set(Object.keys(params).filter((own) => !Object.hasOwn(kinds, own)));
  const found: Record<string, string> = {};
  for (const [param, kind] of Object.entries(kinds)) {
    const same = params[param];
    if (same) found[param] = param;
    else {
      const own = [...free].find((each) => params[each] && fitsKind(kind, params[each].value));
      if (own === undefined) continue;
      free.delete(own);
      found[param] = own;
    }
  }
  return found;
}

/** Why a command cannot be the one of the contract: a value of its own that nobody else gives. `undefined` when it can. */
export function commandAsProblem(
  role: string,
  name: string,
  params: Readonly<Record<string, DriverParameter>>,
): Problem | undefined {
  const known = new Set(Object.values(valuesInContract(role, name, params)));
  const free = Object.entries(params).find(
    ([own, { default: fallback, step, computed }]) =>
      !known.has(own) && fallback === undefined && !step && computed === undefined,
  );
  return (
    free && {
      path: 'sameAs',
      message: `The standard command “${contractWords(name)}” does not set “${free[0]}”. Give it a default.`,
    }
  );
}

/** Why a reading cannot be the one of the contract; `undefined` when it can. */
export function readingAsProblem(role: string, name: string, value: DriverReading['value']): Problem | undefined {
  const kind = contractOf(role)?.readings[name];
  if (kind === undefined) return undefined;
  if (fitsKind(kind, value)) {
    if (isCountedIn(kind, value)) return undefined;
    return {
      path: 'sameAs',
      message: `The standard reading “${contractWords(name)}” is ${kindText(kind)}. Set the unit “${unitOfKind(kind)}” if this reading is too; otherwise choose none.`,
    };
  }
  return {
    path: 'sameAs',
    message: `The standard reading “${contractWords(name)}” is ${kindText(kind)}. Change the type, or choose none.`,
  };
}

/** The additions in which a command is known to the contract as `name`, and as nothing where there is no name. */
export function withCommandAs(
  additions: DriverAdditions,
  id: string,
  as: { readonly role: string; readonly name: string } | undefined,
  params: Params,
): DriverAdditions {
  const { contract = none } = additions;
  const others = Object.fromEntries(Object.entries(contract.commands).filter(([, { command }]) => command !== id));
  const mapped = as ? { [as.name]: { command: id, params: valuesInContract(as.role, as.name, params) } } : {};
  return withContract(additions, { ...contract, commands: { ...others, ...mapped } });
}

/** The additions in which a reading is known to the contract as `name`, and as nothing where there is no name. */
export function withReadingAs(additions: DriverAdditions, id: string, name: string | undefined): DriverAdditions {
  const { contract = none } = additions;
  const others = Object.fromEntries(Object.entries(contract.readings).filter(([, own]) => own !== id));
  return withContract(additions, {
    ...contract,
    readings: { ...others, ...(name === undefined ? {} : { [name]: id }) },
  });
}

function withContract({ contract: _, ...additions }: DriverAdditions, contract: DriverContract): DriverAdditions {
  const isEmpty = [contract.commands, contract.readings, contract.drives, contract.stills].every(
    (part) => Object.keys(part).length === 0,
  );
  return isEmpty ? additions : { ...additions, contract };
}
