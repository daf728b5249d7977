import type { ReportProblem } from './message';
import type { DriverDocument } from './schema';
import type { ValueShape } from './schema-values';

/** Checks that where an option lists what values are called, there is such an option. */
export function checkNames({ commands, readings, options }: DriverDocument, report: ReportProblem): void {
  const look = (value: ValueShape, path: string) => {
    // Before a document is compiled for a device, what an option lists is still a reference to it.
    const names = value.type === 'whole' ? (value.names as readonly string[] | { readonly option: string }) : undefined;
    if (!names || !('option' in names)) return;
    if (options[names.option]?.value.type !== 'text')
      report(`${path}.names`, `There is no option “${names.option}” that is a text.`);
  };
  for (const [id, { params }] of Object.entries(commands))
    for (const [name, { value }] of Object.entries(params)) look(value, `commands.${id}.params.${name}.value`);
  for (const [key, { value }] of Object.entries(readings)) look(value, `readings.${key}.value`);
}
