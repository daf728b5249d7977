import type { Scalar } from '../result';
import { compileDriver } from './compile';
import { fitsOptions, optionsOf, type OptionValues } from './options';
import type { DriverDocument } from './schema';
import { checkValue } from './values';

/**
 * What is wrong with the options that a device has set: by option, a sentence; nothing where the driver works with them. Of options that
 * contradict each other the one is told without which the driver would work.
 */
export function optionProblems(document: DriverDocument, given: OptionValues): Readonly<Record<string, string>> {
  const options = optionsOf(document, given);
  const asked = Object.entries(document.options).filter(([, { only }]) => fitsOptions(only, options));
  const ofValues = asked.flatMap(([name, { title, value }]) => {
    const checked = checkValue(value, options[name]);
    return checked.ok ? [] : [[name, `${title} ${checked.error}.`] as const];
  });
  if (ofValues.length > 0) return Object.fromEntries(ofValues);
  const compiled = compileDriver(document, { options });
  if (compiled.ok) return {};
  const changed = asked.filter(([name, option]) => options[name] !== option.default);
  const works = (name: string, value: Scalar): boolean =>
    compileDriver(document, { options: { ...options, [name]: value } }).ok;
  // Options that rest on others come after them.
  const blamed = changed.findLast(([name, option]) => works(name, option.default)) ?? changed.at(-1) ?? asked.at(-1);
  return blamed ? { [blamed[0]]: compiled.error[0]?.message ?? 'The driver does not take this value.' } : {};
}
