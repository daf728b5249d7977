import { fail, ok, type Result, type Scalar } from '../result';
import { typedValue } from './typed-value';
import { checkValue } from './values';
import type { DriverDocument } from './schema';

/**
 * The command that an act of a list sends, for an item or for the list as a whole. Fails, with a sentence, when the list
 * or the act is not there, when the act needs an item, or when what was asked for does not fit.
 */
export function actOf(
  document: DriverDocument,
  list: string,
  act: number,
  item: { readonly index: number; readonly value: Scalar } | undefined,
  given: Scalar | undefined,
): Result<{ readonly command: string; readonly params: Readonly<Record<string, Scalar>> }, string> {
  const definition = document.lists[list]?.acts[act];
  const command = definition && document.commands[definition.command];
  if (!definition || !command) return fail('The list of this control no longer exists.');
  const params: Record<string, Scalar> = {};
  for (const [name, value] of Object.entries(definition.params)) {
    if (typeof value !== 'object') params[name] = value;
    else if (!item) return fail(`Choose an item first: “${definition.title}” is about one.`);
    else params[name] = value.item === 'index' ? item.index : item.value;
  }
  if (definition.ask === undefined) return ok({ command: definition.command, params });
  const asked = command.params[definition.ask];
  const checked = asked && checkValue(asked.value, typedValue(asked.value, given));
  if (!asked || !checked?.ok)
    return fail(`${asked?.title ?? definition.ask} ${checked && !checked.ok ? checked.error : ''}.`);
  return ok({ command: definition.command, params: { ...params, [definition.ask]: checked.value } });
}
