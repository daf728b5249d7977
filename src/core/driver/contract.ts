import type { Scalar } from '../result';
import { roleContracts, type ContractKind, type RoleContract } from './contract-tables';
import type { DriverContract, DriverDocument } from './schema';
import type { ValueShape } from './schema-values';

/** A command under the names of another driver of the same role. */
export interface BridgedCommand {
  readonly command: string;
  /** The other name of a parameter; `undefined` where the other command has none for it. */
  readonly paramName: (param: string) => string | undefined;
  readonly value: (param: string, value: Scalar) => Scalar;
}

/** How the commands and readings of one driver are called by another one of the same role. */
export interface ContractBridge {
  /** What has no other name keeps its own. */
  readonly command: (id: string) => BridgedCommand;
  /** Keys of members keep what is in their brackets. */
  readonly reading: (key: string) => string;
  readonly readingValue: (key: string, value: Scalar) => Scalar;
  readonly drive: (name: string) => string;
  readonly still: (name: string) => string;
}

/** The contract of a role; `undefined` for a role without one. */
export const contractOf = (role: string): RoleContract | undefined =>
  Object.hasOwn(roleContracts, role) ? roleContracts[role as DriverDocument['role']] : undefined;

/** The bridge between two documents by the contract of a role; `undefined` where nothing has to be renamed: it is the same driver. */
export function contractBridge(role: string, from: DriverDocument, to: DriverDocument): ContractBridge | undefined {
  const contract = contractOf(role);
  if (!contract || from.id === to.id) return undefined;
  return {
    command: (id) => bridgedCommand(contract, from, to, id),
    reading: (key) => bridgedReading(from, to, contract, key).key,
    readingValue: (key, value) => {
      const { kind, key: other } = bridgedReading(from, to, contract, key);
      return placed(kind, from.readings[familyOf(key)]?.value, to.readings[familyOf(other)]?.value, value);
    },
    drive: (name) => otherName(contract.drives ?? [], from.contract?.drives, to.contract?.drives, to.drives, name),
    still: (name) => otherName(contract.stills ?? [], from.contract?.stills, to.contract?.stills, to.stills, name),
  };
}

/** Under which name a contract knows the command of a document, and what it takes there; `undefined` for one of its own. */
export function commandInContract(
  role: string,
  { contract: own, commands }: DriverDocument,
  id: string,
): { readonly name: string; readonly kinds: Readonly<Record<string, ContractKind>> } | undefined {
  const contract = contractOf(role);
  const name = contract && id in commands ? inContract(contract.commands, commandNames(own), id) : undefined;
  return name === undefined ? undefined : { name, kinds: contract?.commands[name] ?? {} };
}

/** The driver's key for a reading of its role's contract. */
export const keyInDriver = (document: Pick<DriverDocument, 'contract'> | undefined, name: string): string =>
  document?.contract?.readings[name] ?? name;

/** The document's parameter for one of the contract. */
export const ownParam = (own: DriverContract | undefined, name: string, param: string): string =>
  own?.commands[name]?.params[param] ?? param;

function bridgedCommand(contract: RoleContract, from: DriverDocument, to: DriverDocument, id: string): BridgedCommand {
  const same: BridgedCommand = { command: id, paramName: (param) => param, value: (_, value) => value };
  const name = inContract(contract.commands, commandNames(from.contract), id);
  const command = name === undefined ? undefined : ownName(commandNames(to.contract), to.commands, name);
  if (name === undefined || command === undefined) return same;
  const kinds = contract.commands[name] ?? {};
  const shapeIn = ({ contract: own, commands }: DriverDocument, known: string, param: string) =>
    commands[known]?.params[ownParam(own, name, param)]?.value;
  const isAlike = Object.entries(kinds).every(
    ([param, kind]) => isCountedIn(kind, shapeIn(from, id, param)) && isCountedIn(kind, shapeIn(to, command, param)),
  );
  if (!isAlike) return { ...same, command: unlike(id) };
  const contractParam = (param: string) =>
    Object.keys(kinds).find((each) => ownParam(from.contract, name, each) === param);
  const paramName = (param: string) => {
    const known = contractParam(param);
    const other = known === undefined ? param : ownParam(to.contract, name, known);
    return Object.hasOwn(to.commands[command]?.params ?? {}, other) ? other : undefined;
  };
  return {
    command,
    paramName,
    value: (param, value) => {
      const known = contractParam(param);
      const other = paramName(param);
      if (known === undefined || other === undefined) return value;
      const shapes = [from.commands[id]?.params[param]?.value, to.commands[command]?.params[other]?.value] as const;
      return placed(kinds[known], ...shapes, value);
    },
  };
}

function bridgedReading(
  from: DriverDocument,
  to: DriverDocument,
  contract: RoleContract,
  key: string,
): { readonly key: string; readonly kind?: ContractKind | undefined } {
  const family = familyOf(key);
  const name = inContract(contract.readings, from.contract?.readings, family);
  const other = name === undefined ? undefined : ownName(to.contract?.readings, to.readings, name);
  if (name === undefined || other === undefined) return { key };
  const kind = contract.readings[name];
  if (!isCountedIn(kind, from.readings[family]?.value) || !isCountedIn(kind, to.readings[other]?.value))
    return { key: unlike(key) };
  const index = /\[[^\]]*\]/.exec(key)?.[0];
  return { key: index === undefined ? other : other.replace('[]', index), kind };
}

const units: Readonly<Partial<Record<string, string>>> = { degrees: '°', percent: '%' };

/** The unit of a number in the contract; `undefined` where it has none. */
export const unitOfKind = (kind: ContractKind | undefined): string | undefined =>
  typeof kind === 'string' ? units[kind] : undefined;

/** False for a number that is counted in another unit than the contract says: the same number would be something else. */
export const isCountedIn = (kind: ContractKind | undefined, shape: ValueShape | undefined): boolean => {
  const unit = unitOfKind(kind);
  return unit === undefined || shape === undefined || ('unit' in shape && shape.unit === unit);
};

/** A name that no document has, for what the other document has by this name but counts otherwise. */
const unlike = (name: string): string => `${name} `;

/** `strip[3].level` and `strip[$strip].level` are of the family `strip[].level`. */
const familyOf = (key: string): string => key.replace(/\[[^\]]*\]/, '[]');

const commandNames = (own: DriverContract | undefined): Readonly<Record<string, string>> | undefined =>
  own && Object.fromEntries(Object.entries(own.commands).map(([name, { command }]) => [name, command]));

/** The name in the contract of what a document calls `id`. */
function inContract(
  known: Readonly<Record<string, unknown>>,
  own: Readonly<Record<string, string>> | undefined,
  id: string,
): string | undefined {
  const mapped = Object.keys(own ?? {}).find((name) => own?.[name] === id);
  if (mapped !== undefined) return mapped;
  return Object.hasOwn(known, id) && own?.[id] === undefined ? id : undefined;
}

/** What a document calls that which the contract calls `name`; `undefined` where it has no such thing. */
function ownName(
  own: Readonly<Record<string, string>> | undefined,
  there: Readonly<Record<string, unknown>>,
  name: string,
): string | undefined {
  const called = own?.[name] ?? name;
  return Object.hasOwn(there, called) ? called : undefined;
}

function otherName(
  known: readonly string[],
  from: Readonly<Record<string, string>> | undefined,
  to: Readonly<Record<string, string>> | undefined,
  there: Readonly<Record<string, unknown>>,
  id: string,
): string {
  const name = inContract(Object.fromEntries(known.map((each) => [each, true])), from, id);
  return (name === undefined ? undefined : ownName(to, there, name)) ?? id;
}

/** A value between the ends of one shape, at the same place between the ends of the other. */
function placed(
  kind: ContractKind | undefined,
  from: ValueShape | undefined,
  to: ValueShape | undefined,
  value: Scalar,
): Scalar {
  const [here, there] = [endsOf(from), endsOf(to)];
  if (kind !== 'share' || !here || !there || typeof value !== 'number') return value;
  const place = (value - here.min) / (here.max - here.min);
  const exact = there.min + place * (there.max - there.min);
  if (to?.type === 'whole') return Math.round(exact);
  const digits = 10 ** (to?.type === 'decimal' ? (to.decimals ?? 2) : 2);
  return Math.round(exact * digits) / digits;
}

function endsOf(shape: ValueShape | undefined): { readonly min: number; readonly max: number } | undefined {
  if (shape?.type !== 'whole' && shape?.type !== 'decimal') return undefined;
  const { min, max } = shape;
  return typeof min === 'number' && typeof max === 'number' && max > min ? { min, max } : undefined;
}
