import type { Problem } from '../result';
import { commandInContract, contractOf, keyInDriver, ownParam } from './contract';
import type { ContractKind } from './contract-tables';
import type { ReportProblem } from './message';
import type { DriverDocument } from './schema';
import type { ValueShape } from './schema-values';

/** Checks that `contract` maps names that exist to commands and readings that exist. */
export function checkContract(document: DriverDocument, whole: DriverDocument, report: ReportProblem): void {
  const { contract } = document;
  if (!contract) return;
  const known = contractOf(document.role);
  // A generic driver says nothing of roles: what a show adds to it goes by the role of the device.
  const isOpen = !known || Object.keys(known.commands).length === 0;
  const check = (part: 'readings' | 'drives' | 'stills', names: readonly string[]) => {
    for (const [name, own] of Object.entries(contract[part])) {
      const path = `contract.${part}.${name}`;
      if (!isOpen && !names.includes(name)) report(path, notThere(document.role, name, names));
      if (!Object.hasOwn(whole[part], own) && !Object.hasOwn(document[part], own))
        report(path, `There is no “${own}” under "${part}".`);
    }
  };
  check('readings', Object.keys(known?.readings ?? {}));
  check('drives', known?.drives ?? []);
  check('stills', known?.stills ?? []);
  for (const [name, { command, params }] of Object.entries(contract.commands)) {
    const path = `contract.commands.${name}`;
    const kinds = known && Object.hasOwn(known.commands, name) ? known.commands[name] : undefined;
    if (!isOpen && !kinds) report(path, notThere(document.role, name, Object.keys(known.commands)));
    const there = [document, whole].find(({ commands }) => Object.hasOwn(commands, command))?.commands[command];
    if (!there) report(path, `There is no command “${command}”.`);
    for (const [param, own] of Object.entries(params)) {
      if (kinds && !Object.hasOwn(kinds, param))
        report(`${path}.params.${param}`, notThere(document.role, param, Object.keys(kinds)));
      if (there && !Object.hasOwn(there.params, own))
        report(`${path}.params.${param}`, `There is no parameter “${own}”.`);
    }
  }
}

const notThere = (role: string, name: string, names: readonly string[]): string =>
  `The ${role} contract has no “${name}”. ${names.length > 0 ? `It has ${names.join(', ')}.` : 'It has none.'}`;

/** Where a document uses the contract's names for something else, so that a page made for another device would send nonsense. */
export function contractMistakes(document: DriverDocument): Problem[] {
  const problems: Problem[] = [];
  if (document.role === 'any') return problems;
  for (const [id, { params }] of Object.entries(document.commands)) {
    const known = commandInContract(document.role, document, id);
    if (!known) continue;
    const ownNames = new Map(
      Object.keys(known.kinds).map((param) => [ownParam(document.contract, known.name, param), param]),
    );
    for (const [own, { value, optional, default: fallback, ...given }] of Object.entries(params)) {
      const path = `commands.${id}.params.${own}`;
      const param = ownNames.get(own);
      const kind = param === undefined ? undefined : known.kinds[param];
      if (kind === undefined) {
        const isGiven = optional || fallback !== undefined || given.fromReading || given.step || given.computed;
        if (!isGiven)
          problems.push({
            path,
            message: `Controls made for another device cannot set this: the ${document.role} contract has no such parameter for “${known.name}”. Give it a default, or map it under "contract".`,
          });
      } else if (!fitsKind(kind, value)) {
        problems.push({
          path,
          message: `The ${document.role} contract expects ${kindText(kind)} here.`,
        });
      }
    }
  }
  const contract = contractOf(document.role);
  for (const [name, kind] of Object.entries(contract?.readings ?? {})) {
    const key = keyInDriver(document, name);
    const reading = document.readings[key];
    if (reading && !fitsKind(kind, reading.value))
      problems.push({
        path: `readings.${key}`,
        message: `The ${document.role} contract expects ${kindText(kind)} here.`,
      });
  }
  return problems;
}

/** True where a value can be what the contract says. */
export function fitsKind(kind: ContractKind, shape: ValueShape): boolean {
  switch (kind) {
    case 'number':
    case 'degrees':
    case 'percent':
      return shape.type === 'whole' || shape.type === 'decimal';
    case 'share':
      return (shape.type === 'whole' || shape.type === 'decimal') && shape.min !== undefined && shape.max !== undefined;
    case 'onOff':
    case 'text':
    case 'time':
      return shape.type === kind;
    default:
      return shape.type === 'choice' && shape.choices.some(({ value }) => kind.includes(value));
  }
}

export function kindText(kind: ContractKind): string {
  switch (kind) {
    case 'number':
      return 'a number';
    case 'degrees':
      return 'a number of degrees';
    case 'percent':
      return 'a number in per cent';
    case 'share':
      return 'a number with a minimum and a maximum';
    case 'onOff':
      return 'on or off';
    case 'text':
      return 'text';
    case 'time':
      return 'a time';
    default:
      return `a choice of ${kind.join(', ')}`;
  }
}
