import { fail, ok, type Result, type Scalar } from '../result';
import type { MacroRecord } from '../show';
import { valueOfText, type InletError } from './request';

/** The parameters of a macro as somebody has written them, in the types that it has them. */
export function macroParamsOf(
  { data }: MacroRecord,
  given: Readonly<Record<string, string>>,
): Result<Record<string, Scalar>, InletError> {
  const params: Record<string, Scalar> = {};
  for (const [name, text] of Object.entries(given)) {
    const param = data.params.find((each) => each.name.toLowerCase() === name.toLowerCase());
    const takes = data.params.map((each) => each.name).join(', ') || 'none';
    if (!param) return fail({ code: 'not-found', message: `${data.name} has no parameter ${name} (it has ${takes}).` });
    const type = typeof param.value === 'number' ? 'number' : typeof param.value === 'boolean' ? 'onOff' : 'text';
    const value = valueOfText(text, type);
    if (typeof value !== typeof param.value || Number.isNaN(value))
      return fail({ code: 'incomplete', message: `${param.name} of ${data.name} cannot be “${text.slice(0, 40)}”.` });
    params[param.name] = value;
  }
  return ok(params);
}
